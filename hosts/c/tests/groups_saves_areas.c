// What must come of groups, saves, areas and instances.
//
//     groups_saves_areas DEMO_FOLDER

#include <lucky_reel.h>
#include <stdio.h>
#include <string.h>

#define WANT(what)                                                                       \
    if (!(what)) {                                                                       \
        fprintf(stderr, "line %d: %s; %s\n", __LINE__, #what, lucky_last_problem());     \
        return 1;                                                                        \
    }
#define OK(call) WANT((call) == LUCKY_STATUS_OK)

enum { MOTHS = 70, SLOTS = 192, TENTH = LUCKY_TICKS_PER_SECOND / 10 };

int main(int argc, char **argv) {
    if (argc != 2) return 2;
    char bram_path[4096], moth_path[4096];
    snprintf(bram_path, sizeof moth_path, "%s/bram.reel.toml", argv[1]);
    snprintf(moth_path, sizeof moth_path, "%s/moth.reel.toml", argv[1]);
    const char *const files[] = {bram_path, moth_path};
    LuckyArt *art;
    OK(lucky_art_load(files, 2, &art));
    LuckyClip flutter;
    LuckyArea body;
    OK(lucky_art_id(art, LUCKY_KIND_CLIP, "flutter", &flutter.bits));
    OK(lucky_art_id(art, LUCKY_KIND_AREA, "body", &body.bits));

    // Two crowds of the same moths, of which one sleeps for a while: woken, it is where the other one is.
    LuckyCrowd *crowds[2];
    LuckyGroup far;
    LuckyMember moths[MOTHS];
    for (int nth = 0; nth < 2; nth++) {
        OK(lucky_crowd_new(art, &crowds[nth]));
        OK(lucky_crowd_add_group(crowds[nth], &far));
        for (int i = 0; i < MOTHS; i++) {
            LuckyNewMember moth = lucky_new_player(flutter);
            moth.group = far;
            moth.is_random = true;
            moth.seed = 5;
            moth.number = (uint64_t)i;
            OK(lucky_crowd_spawn(crowds[nth], &moth, &moths[i]));
        }
    }
    OK(lucky_crowd_sleep_group(crowds[0], far));
    for (int step = 0; step < 25; step++) {
        for (int nth = 0; nth < 2; nth++) OK(lucky_crowd_advance(crowds[nth], TENTH, LUCKY_EVENT_MASK_NONE));
    }
    OK(lucky_crowd_wake_group(crowds[0], far, LUCKY_EVENT_MASK_CYCLES));
    const LuckyEvent *events;
    size_t count;
    OK(lucky_crowd_events(crowds[0], &events, &count));
    WANT(count > MOTHS && events[0].kind == LUCKY_EVENT_KIND_CYCLE);
    OK(lucky_crowd_remove(crowds[0], moths[3])); // the list stays as it is meanwhile
    OK(lucky_crowd_remove(crowds[1], moths[3]));
    WANT(events[count - 1].at <= 25 * (uint64_t)TENTH);

    // What was saved is the same, members keep their ids.
    size_t size, again;
    static uint8_t bytes[2][20000];
    WANT(lucky_crowd_save(crowds[0], NULL, 0, &size) == LUCKY_STATUS_FULL);
    WANT(size > 100);
    OK(lucky_crowd_save(crowds[0], bytes[0], sizeof bytes[0], &size));
    OK(lucky_crowd_save(crowds[1], bytes[1], sizeof bytes[1], &again));
    WANT(size == again && memcmp(bytes[0], bytes[1], size) == 0);
    LuckyCrowd *loaded;
    OK(lucky_crowd_load(art, bytes[0], size, true, &loaded));
    WANT(lucky_crowd_load(art, bytes[0], 3, true, &loaded) == LUCKY_STATUS_LOAD);
    LuckyFrame one, other;
    OK(lucky_crowd_frame(crowds[1], moths[8], &one));
    OK(lucky_crowd_frame(loaded, moths[8], &other));
    WANT(one.bits == other.bits);
    WANT(lucky_crowd_frame(loaded, moths[3], &other) == LUCKY_STATUS_NOTHING);

    // Instances at positions, and at places, are the quads of the frames.
    size_t members, slots;
    OK(lucky_crowd_count(loaded, &members, &slots));
    WANT(members == MOTHS - 1 && slots <= SLOTS);
    static float positions[SLOTS][2];
    static LuckyPlacement places[SLOTS];
    for (int i = 0; i < SLOTS; i++) {
        places[i] = lucky_placement_new((float)(3 * i), (float)(7 * i));
        memcpy(positions[i], places[i].position, sizeof positions[i]);
    }
    static LuckyInstance at[MOTHS], placed[MOTHS];
    OK(lucky_crowd_instances(loaded, positions[0], MOTHS, at, MOTHS, &count));
    WANT(count == MOTHS - 1);
    OK(lucky_crowd_instances_placed(loaded, places, SLOTS, placed, MOTHS, &count));
    WANT(count == MOTHS - 1 && memcmp(at, placed, count * sizeof *at) == 0);
    WANT(lucky_crowd_instances_placed(loaded, places, 5, placed, MOTHS, &count) == LUCKY_STATUS_RANGE);
    WANT(lucky_crowd_instances(loaded, positions[0], MOTHS, placed, 9, &count) == LUCKY_STATUS_FULL && count == 9);
    LuckyQuad quad;
    OK(lucky_frame_quad(art, one, &places[8], &quad));
    // The moth of slot 8 is written as the eighth: slot 3 is free.
    WANT(at[7].source[2] > 0 && at[7].image == quad.image);
    float left = at[7].axis_x[0] < 0 ? at[7].origin[0] + at[7].axis_x[0] : at[7].origin[0];
    WANT(left == quad.corners[0][0]);

    // Areas turn with the picture, and meet or not.
    LuckyPlayer moth;
    LuckyBox here, there;
    bool meets;
    OK(lucky_player_new(art, flutter, &moth));
    OK(lucky_player_frame(art, &moth, &one));
    LuckyPlacement place = lucky_placement_new(100, 100);
    OK(lucky_frame_area(art, one, body, &place, &here));
    place.position[0] += 4;
    place.rotation = 0.5f;
    OK(lucky_frame_area(art, one, body, &place, &there));
    OK(lucky_box_overlaps(&here, &there, &meets));
    WANT(meets);
    place.position[0] += 90;
    OK(lucky_frame_area(art, one, body, &place, &there));
    OK(lucky_box_overlaps(&here, &there, &meets));
    WANT(!meets);
    OK(lucky_box_contains(&here, 100, 100, &meets));
    WANT(meets);
    WANT(lucky_box_contains((LuckyBox *)((char *)&here + 1), 0, 0, &meets) == LUCKY_STATUS_NULL);

    // What a mark carries.
    LuckyArt *bram_art;
    const char *const bram_files[] = {bram_path};
    OK(lucky_art_load(bram_files, 1, &bram_art));
    LuckyClip land;
    LuckyKey loud, sound;
    OK(lucky_art_id(bram_art, LUCKY_KIND_CLIP, "land-down", &land.bits));
    OK(lucky_art_id(bram_art, LUCKY_KIND_DATA, "loud", &loud.bits));
    OK(lucky_art_id(bram_art, LUCKY_KIND_DATA, "sound", &sound.bits));
    LuckyPlayer bram;
    LuckyEvent landed[4];
    double loudness;
    char name[8];
    OK(lucky_player_new(bram_art, land, &bram));
    OK(lucky_player_advance(bram_art, &bram, TENTH / 2, landed, 4, &count));
    WANT(count == 2 && landed[1].kind == LUCKY_EVENT_KIND_MARK);
    OK(lucky_event_number(bram_art, &landed[1], loud, &loudness));
    OK(lucky_event_text(bram_art, &landed[1], sound, name, sizeof name));
    WANT(loudness > 0.79 && loudness < 0.81 && strcmp(name, "thud") == 0);
    WANT(lucky_event_number(bram_art, &landed[0], loud, &loudness) == LUCKY_STATUS_NOTHING);
    WANT(lucky_event_number(bram_art, &landed[1], sound, &loudness) == LUCKY_STATUS_NOTHING);
    WANT(lucky_event_number(art, &landed[1], loud, &loudness) == LUCKY_STATUS_NOTHING);
    OK(lucky_art_free(bram_art));

    // A player as bytes.
    OK(lucky_player_save(art, &moth, bytes[0], sizeof bytes[0], &size));
    LuckyPlayer back;
    OK(lucky_player_load(art, bytes[0], size, true, &back));
    WANT(memcmp(&moth, &back, sizeof moth) == 0);
    OK(lucky_crowd_free(loaded));
    for (int nth = 0; nth < 2; nth++) OK(lucky_crowd_free(crowds[nth]));
    OK(lucky_art_free(art));
    printf("all as it must be\n");
    return 0;
}
