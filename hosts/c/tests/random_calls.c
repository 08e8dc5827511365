// Calls everything in random order, with null, with ids that nobody gave, with ids of another reel and with
// things that are gone. Nothing but a status may come of it.
//
//     random_calls DEMO_FOLDER

#include <lucky_reel.h>
#include <stdio.h>
#include <string.h>

static uint64_t state = 88172645463325252u;

static uint64_t any(void) {
    state ^= state << 13;
    state ^= state >> 7;
    state ^= state << 17;
    return state;
}

static uint64_t below(uint64_t number) { return any() % number; }

// A thing, or null now and then.
#define SOME(thing) (below(9) ? (thing) : NULL)

enum { KINDS = 10, KEPT = 8 };
// Ids of each kind that were given, of two reels and of none.
static uint64_t ids[KINDS][KEPT];

static uint64_t id(int kind) { return below(12) ? ids[kind][below(KEPT)] : any(); }

static const char *const words[] = {"bram", "moth", "moth/flutter", "bram/idle-down", "moving", "pace", "hurt",
                                    "step", "puff", "walking", "lantern", "left", "", "\xff\xfe", "bram/", "foot",
                                    "dusk", "land", "hand", "body"};
static const char *word(void) { return SOME(words[below(sizeof words / sizeof *words)]); }

static double number(void) {
    static const double numbers[] = {0, 1, 1, 0.5, -1, 2, 64, 1e300, -1e-300, 0.0 / 1, 4294967296.0};
    return below(20) ? numbers[below(11)] : (double)any() * (below(2) ? 1 : -1e9);
}

static unsigned taken;
static void read_events(const LuckyCrowd *crowd) {
    const LuckyEvent *events;
    size_t count;
    if (lucky_crowd_events(crowd, &events, &count) != LUCKY_STATUS_OK) return;
    for (size_t i = 0; i < count; i++) taken += events[i].kind <= LUCKY_EVENT_KIND_OTHER;
}

// Saves something and loads it again, now and then with a byte changed or with too little room.
static LuckyStatus save_and_load(const LuckyArt *art, LuckyPlayer *player, LuckyActor **actor, LuckyCrowd **crowd) {
    static uint8_t bytes[60000];
    size_t size = 0, room = below(5) ? sizeof bytes : below(90);
    uint64_t what = below(3);
    LuckyStatus status = what == 0   ? lucky_player_save(art, player, SOME(bytes), room, SOME(&size))
                         : what == 1 ? lucky_actor_save(*actor, SOME(bytes), room, SOME(&size))
                                     : lucky_crowd_save(*crowd, SOME(bytes), room, SOME(&size));
    if (status != LUCKY_STATUS_OK || size == 0) return status;
    bool is_changed = below(4) == 0;
    if (is_changed) bytes[below(size)] ^= (uint8_t)(1u << below(8));
    if (what == 0) return lucky_player_load(art, bytes, size, below(2), player);
    if (what == 1) {
        LuckyActor *loaded = NULL;
        status = lucky_actor_load(art, bytes, size, below(2), &loaded);
        if (loaded) lucky_actor_free(*actor), *actor = loaded;
        return status;
    }
    LuckyCrowd *loaded = NULL;
    status = lucky_crowd_load(art, bytes, size, below(2), &loaded);
    if (loaded) lucky_crowd_free(*crowd), *crowd = loaded;
    return status;
}

int main(int argc, char **argv) {
    if (argc != 2) return 2;
    static const char *const names[] = {"bram", "moth", "puff"};
    char paths[3][4096];
    const char *files[4];
    for (int i = 0; i < 3; i++) {
        snprintf(paths[i], sizeof paths[i], "%s/%s.reel.toml", argv[1], names[i]);
        files[i] = paths[i];
    }
    files[3] = "nowhere.reel.toml";
    LuckyArt *arts[2] = {NULL, NULL};
    LuckyCrowd *crowd = NULL;
    LuckyActor *actor = NULL;
    LuckyClock *clock = NULL;
    LuckyPlayer players[4];
    LuckyFrame picture = {0};
    memset(players, 0, sizeof players);
    unsigned counts[LUCKY_STATUS_NOT_AN_ACTOR + 1] = {0};
    for (int call = 0; call < 9000; call++) {
        LuckyArt **of = &arts[below(2)];
        LuckyArt *art = SOME(*of);
        LuckyPlayer *player = SOME(&players[below(4)]);
        LuckyCrowd *c = SOME(crowd);
        LuckyActor *a = SOME(actor);
        LuckyMember member = {id(8)};
        LuckyClip clip = {id(0)};
        LuckyRole role = {id(1)};
        LuckyFact fact = {id(2)};
        uint64_t mark = id(3);
        LuckySpan span = {id(4)};
        LuckyPoint point = {id(5)};
        LuckyLook look = {id(6)};
        LuckyArea area = {id(9)};
        LuckyGroup group = {(uint8_t)below(5)};
        LuckyEvent events[5];
        LuckyInstance instances[5];
        LuckyPlacement places[40];
        float positions[40][2];
        LuckyPlacement place = lucky_placement_new((float)number(), (float)number());
        place.rotation = (float)number();
        place.scale[0] = (float)number();
        for (int i = 0; i < 40; i++) {
            places[i] = place;
            memcpy(positions[i], place.position, sizeof place.position);
        }
        size_t count = 0, slots, room = below(6);
        uint64_t ticks = below(5) ? below(3000000) : below(20) ? below(1u << 31) : any(), *keep = NULL;
        char text[20];
        double choice;
        LuckyStatus status = LUCKY_STATUS_OK;
        // Loading takes long under valgrind, and so do years of events.
        switch (below(54)) {
        case 0:
            if (*of && below(30)) break;
            {
                LuckyArt *loaded = NULL;
                size_t many = below(10) ? 3 : below(5);
                status = *of && below(3) ? lucky_art_reload(art, files, many, &loaded) : lucky_art_load(files, many, SOME(&loaded));
                if (loaded) {
                    lucky_art_free(*of);
                    *of = loaded;
                }
            }
            break;
        case 1:
            if (below(40)) break;
            lucky_art_free(art);
            if (art) *of = NULL;
            break;
        case 2: case 3: case 4: case 5: case 6: case 7: case 8: case 9: {
            // The kind of the ids that are kept in each row; members are in row 8.
            static const uint32_t kinds[] = {LUCKY_KIND_CLIP, LUCKY_KIND_ROLE, LUCKY_KIND_FACT, LUCKY_KIND_MARK,
                LUCKY_KIND_SPAN, LUCKY_KIND_POINT, LUCKY_KIND_LOOK, LUCKY_KIND_CUE, 99, LUCKY_KIND_AREA};
            size_t row = below(9);
            if (row == 8) row = 9;
            keep = &ids[row][below(KEPT)];
            status = lucky_art_id(art, below(20) ? kinds[row] : (uint32_t)below(14), word(), SOME(keep));
            break;
        }
        case 10: status = lucky_art_choice(art, fact, word(), SOME(&choice)); break;
        case 11: status = lucky_art_name(art, (uint32_t)below(10), clip.bits, SOME(text), below(sizeof text)); break;
        case 12: status = lucky_art_name(art, LUCKY_KIND_MARK, mark, SOME(text), below(sizeof text)); break;
        case 13: case 14: status = lucky_player_new(art, clip, player); break;
        case 15: status = lucky_player_play(art, player, clip); break;
        case 16: status = lucky_player_switch_to(art, player, clip); break;
        case 17: status = lucky_player_then(art, player, clip); break;
        case 18: status = lucky_player_restart(art, player); break;
        case 19: status = lucky_player_stop(art, player); break;
        case 20: status = lucky_player_set_paused(art, player, below(4) == 0); break;
        case 21: status = lucky_player_set_speed(art, player, number()); break;
        case 22: status = lucky_player_set_flips(art, player, below(2), below(2)); break;
        case 23: status = lucky_player_seek(art, player, ticks); break;
        case 24: case 25: status = lucky_player_advance(art, player, ticks, SOME(events), room, SOME(&count)); break;
        case 26: status = lucky_player_frame(art, player, SOME(&picture)); break;
        case 27: {
            LuckyPlayerState told;
            status = lucky_player_state(art, player, SOME(&told));
            break;
        }
        case 28: {
            bool is_in;
            status = lucky_player_in_span(art, player, span, SOME(&is_in));
            break;
        }
        case 29: {
            LuckyBlit blit;
            LuckyView view;
            status = lucky_frame_view(art, picture, SOME(&view));
            if (status == LUCKY_STATUS_OK && view.source.width > view.size[0]) return 4;
            status = lucky_frame_blit(art, picture, (int32_t)any(), (int32_t)any(), (uint32_t)below(9), SOME(&blit));
            break;
        }
        case 30: {
            LuckyQuad quad;
            status = lucky_frame_quad(art, picture, SOME(&place), SOME(&quad));
            break;
        }
        case 31: {
            float at[2];
            status = lucky_frame_point(art, picture, point, SOME(&place), SOME(&at));
            break;
        }
        case 32:
            if (!actor) status = lucky_actor_new(art, role, SOME(&actor));
            else if (below(20) == 0) lucky_actor_free(actor), actor = NULL;
            break;
        case 33: status = lucky_actor_reload(a, art); break;
        case 34: status = lucky_actor_set(a, fact, number()); break;
        case 35: status = lucky_actor_set_facing(a, (uint32_t)below(10)); break;
        case 36: status = lucky_actor_wear(a, look, below(3)); break;
        case 37: case 38: status = lucky_actor_advance(a, ticks, SOME(events), room, SOME(&count)); break;
        case 39: status = lucky_actor_frame(a, SOME(&picture)); break;
        case 40: {
            LuckyCue cue;
            status = below(2) ? lucky_actor_cue(a, SOME(&cue)) : lucky_actor_player(a, player);
            break;
        }
        case 41:
            if (!crowd) status = lucky_crowd_new(art, SOME(&crowd));
            else if (below(40) == 0) lucky_crowd_free(crowd), crowd = NULL;
            else status = lucky_crowd_reload(c, art);
            break;
        case 42: case 43: {
            LuckyMember *out = SOME((LuckyMember *)&ids[8][below(KEPT)]);
            LuckyNewMember new = below(4) ? lucky_new_player(clip) : lucky_new_actor(role);
            new.is_random = below(2);
            new.seed = any();
            new.group = below(4) ? new.group : group;
            if (below(5) == 0) new.speed = number();
            status = lucky_crowd_spawn(c, SOME(&new), out);
            break;
        }
        case 44: status = below(3) ? lucky_crowd_play(c, member, clip) : lucky_crowd_switch_to(c, member, clip); break;
        case 45: status = below(2) ? lucky_crowd_set(c, member, fact, number()) : lucky_crowd_set_facing(c, member, (uint32_t)below(10)); break;
        case 46:
            switch (below(5)) {
            case 0: status = lucky_crowd_set_speed(c, member, number()); break;
            case 1: status = lucky_crowd_set_flips(c, member, 1, below(2)); break;
            case 2: status = lucky_crowd_set_paused(c, member, below(4) == 0); break;
            case 3: status = lucky_crowd_hit_stop(c, member, ticks % 72072000); break;
            default: status = lucky_crowd_wear(c, member, look, below(3)); break;
            }
            break;
        case 47:
            // All events of a crowd are worked out.
            status = lucky_crowd_advance(c, ticks % 72072000, (uint32_t)below(64));
            if (c) read_events(c);
            break;
        case 48:
            status = below(4) ? lucky_crowd_frame(c, member, SOME(&picture)) : lucky_crowd_remove(c, member);
            break;
        case 49: {
            size_t many = below(41);
            status = below(2) ? lucky_crowd_instances(c, SOME(positions[0]), many, SOME(instances), room, SOME(&count))
                              : lucky_crowd_instances_placed(c, SOME(places), many, SOME(instances), room, SOME(&count));
            break;
        }
        case 50: {
            LuckyBox box, wall = {{{0, 0}, {90, 0}, {90, 90}, {0, 90}}};
            bool meets;
            status = lucky_frame_area(art, picture, area, SOME(&place), SOME(&box));
            if (status != LUCKY_STATUS_OK) break;
            status = below(2) ? lucky_box_overlaps(&box, SOME(&wall), SOME(&meets))
                              : lucky_box_contains(SOME(&box), (float)number(), (float)number(), SOME(&meets));
            break;
        }
        case 51:
            switch (below(4)) {
            case 0: status = lucky_crowd_add_group(c, SOME(&group)); break;
            case 1: status = lucky_crowd_set_group_scale(c, group, number()); break;
            case 2: status = lucky_crowd_sleep_group(c, group); break;
            default:
                status = lucky_crowd_wake_group(c, group, (uint32_t)below(64));
                if (c) read_events(c);
            }
            break;
        case 52: {
            LuckyKey key = {id(2)};
            LuckyEvent event;
            memset(&event, 0, sizeof event);
            event.clip = clip;
            event.hold = (uint32_t)below(9);
            event.id = mark;
            status = below(2) ? lucky_event_number(art, SOME(&event), key, SOME(&choice))
                              : lucky_event_text(art, SOME(&event), key, SOME(text), below(sizeof text));
            break;
        }
        case 53:
            status = save_and_load(art, player, &actor, &crowd);
            break;
        default:
            status = lucky_crowd_count(c, SOME(&count), SOME(&slots));
            if (c && lucky_crowd_count(c, (size_t *)((char *)&count + 1), &slots) != LUCKY_STATUS_NULL) return 5;
            if (below(3) == 0) {
                if (!clock) status = lucky_clock_new(SOME(&clock));
                else status = below(3) ? lucky_clock_step(clock, number(), SOME(&ticks)) : lucky_clock_set_scale(SOME(clock), number());
            }
            if (below(5) == 0) {
                LuckyImage image;
                uint32_t images, facing;
                status = lucky_art_image(art, (uint32_t)below(9), SOME(&image));
                if (status == LUCKY_STATUS_OK) state ^= image.rgba[4u * image.width * image.height - 1];
                lucky_art_image_count(art, SOME(&images));
                lucky_facing_of((float)number(), (float)number(), (uint32_t)below(9), (uint32_t)below(9), SOME(&facing));
            }
            // Players are scribbled over, too.
            if (below(9) == 0) players[below(4)].bits[below(6)] ^= 1ull << below(64);
            if (below(9) == 0) picture.bits = (uint32_t)any();
        }
        if (status > LUCKY_STATUS_NOT_AN_ACTOR || status == LUCKY_STATUS_BUG) {
            fprintf(stderr, "call %d: status %d: %s\n", call, (int)status, lucky_last_problem());
            return 1;
        }
        if (status > LUCKY_STATUS_NOTHING && !*lucky_last_problem()) return 3;
        counts[status]++;
    }
    lucky_clock_free(clock);
    lucky_crowd_free(crowd);
    lucky_actor_free(actor);
    lucky_art_free(arts[0]);
    lucky_art_free(arts[1]);
    for (int i = 0; i <= LUCKY_STATUS_NOT_AN_ACTOR; i++) printf("%u ", counts[i]);
    printf("\n%u events taken; no call ended badly\n", taken);
    return counts[LUCKY_STATUS_OK] < 2000 || taken == 0;
}
