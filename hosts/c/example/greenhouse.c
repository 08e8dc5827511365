// Bram walks through the greenhouse, and a hundred moths fly about: a game in C that writes what it shows after
// 2.5 seconds as a PNG.
//
//     greenhouse DEMO_FOLDER PICTURE.png

#include <lucky_reel.h>
#include <png.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { WIDTH = 320, HEIGHT = 200, MOTHS = 100 };
static uint8_t screen[HEIGHT][WIDTH][4];

// Ends the program after a problem.
static LuckyStatus check(LuckyStatus status) {
    if (status > LUCKY_STATUS_NOTHING) {
        fprintf(stderr, "%s\n", lucky_last_problem());
        exit(1);
    }
    return status;
}

// Draws a picture with its pivot at a place.
static void draw(const LuckyArt *art, LuckyFrame picture, int x, int y) {
    LuckyBlit blit;
    LuckyImage image;
    check(lucky_frame_blit(art, picture, x, y, 1, &blit));
    check(lucky_art_image(art, blit.image, &image));
    for (uint32_t row = 0; row < blit.size[1]; row++) {
        for (uint32_t column = 0; column < blit.size[0]; column++) {
            int to_x = blit.at[0] + (int)column, to_y = blit.at[1] + (int)row;
            if (to_x < 0 || to_y < 0 || to_x >= WIDTH || to_y >= HEIGHT) continue;
            uint32_t from_x = blit.source.x + (blit.flip_x ? blit.source.width - 1 - column : column);
            uint32_t from_y = blit.source.y + (blit.flip_y ? blit.source.height - 1 - row : row);
            const uint8_t *from = image.rgba + 4 * ((size_t)from_y * image.width + from_x);
            uint8_t *to = screen[to_y][to_x];
            for (int color = 0; color < 3; color++) {
                to[color] = (uint8_t)((from[color] * from[3] + to[color] * (255 - from[3]) + 127) / 255);
            }
            to[3] = 255;
        }
    }
}

int main(int argc, char **argv) {
    if (argc != 3) {
        fprintf(stderr, "usage: %s DEMO_FOLDER PICTURE.png\n", argv[0]);
        return 2;
    }
    static const char *const names[] = {"bram", "greenhouse", "moth"};
    char paths[3][4096];
    const char *files[3];
    for (int i = 0; i < 3; i++) {
        snprintf(paths[i], sizeof paths[i], "%s/%s.reel.toml", argv[1], names[i]);
        files[i] = paths[i];
    }
    LuckyArt *art;
    check(lucky_art_load(files, 3, &art));

    // Names are looked up once.
    LuckyRole role;
    LuckyFact moving, pace;
    uint64_t step;
    LuckyClip flutter, night;
    check(lucky_art_id(art, LUCKY_KIND_ROLE, "bram", &role.bits));
    check(lucky_art_id(art, LUCKY_KIND_FACT, "moving", &moving.bits));
    check(lucky_art_id(art, LUCKY_KIND_FACT, "pace", &pace.bits));
    check(lucky_art_id(art, LUCKY_KIND_MARK, "step", &step));
    check(lucky_art_id(art, LUCKY_KIND_CLIP, "moth/flutter", &flutter.bits));
    check(lucky_art_id(art, LUCKY_KIND_CLIP, "greenhouse", &night.bits));

    LuckyActor *bram;
    LuckyCrowd *moths;
    LuckyPlayer back;
    check(lucky_actor_new(art, role, &bram));
    check(lucky_crowd_new(art, &moths));
    check(lucky_player_new(art, night, &back));
    LuckyMember flying[MOTHS];
    LuckyNewMember moth = lucky_new_player(flutter);
    moth.is_random = true;
    moth.seed = 7;
    for (int i = 0; i < MOTHS; i++) {
        moth.number = (uint64_t)i;
        check(lucky_crowd_spawn(moths, &moth, &flying[i]));
    }

    LuckyClock *clock;
    check(lucky_clock_new(&clock));
    double x = 60;
    int steps = 0;
    for (int update = 0; update < 150; update++) {
        uint64_t ticks;
        check(lucky_clock_step(clock, 1 / 60.0, &ticks));
        check(lucky_actor_set(bram, moving, 1));
        check(lucky_actor_set(bram, pace, 64));
        check(lucky_actor_set_facing(bram, LUCKY_FACING_RIGHT));
        LuckyEvent events[8];
        size_t count;
        check(lucky_actor_advance(bram, ticks, events, 8, &count));
        for (size_t i = 0; i < count; i++) {
            steps += events[i].kind == LUCKY_EVENT_KIND_MARK && events[i].id == step;
        }
        check(lucky_crowd_advance(moths, ticks, LUCKY_EVENT_MASK_NONE));
        check(lucky_player_advance(art, &back, ticks, NULL, 0, NULL));
        x += 64 / 60.0;
    }

    LuckyFrame picture;
    if (check(lucky_player_frame(art, &back, &picture)) == LUCKY_STATUS_OK) draw(art, picture, 0, 0);
    if (check(lucky_actor_frame(bram, &picture)) == LUCKY_STATUS_OK) draw(art, picture, (int)x, 181);
    for (int i = 0; i < MOTHS; i++) {
        if (check(lucky_crowd_frame(moths, flying[i], &picture)) == LUCKY_STATUS_OK) {
            draw(art, picture, 37 * i % WIDTH, 11 * i % 160);
        }
    }
    png_image out;
    memset(&out, 0, sizeof out);
    out.version = PNG_IMAGE_VERSION;
    out.width = WIDTH;
    out.height = HEIGHT;
    out.format = PNG_FORMAT_RGBA;
    if (!png_image_write_to_file(&out, argv[2], 0, screen, 0, NULL)) {
        fprintf(stderr, "%s: %s\n", argv[2], out.message);
        return 1;
    }
    printf("%d steps; written: %s\n", steps, argv[2]);
    lucky_clock_free(clock);
    lucky_crowd_free(moths);
    lucky_actor_free(bram);
    lucky_art_free(art);
    return 0;
}
