// Lucky Reel for C: sprite clips with exact time. Made from the Rust code by its test; do not edit.
//
// Rules, where a function does not say otherwise:
// - Every function returns a LuckyStatus. LUCKY_STATUS_OK is 0. Only then are the results behind `out` pointers
//   written. After a problem (not after LUCKY_STATUS_NOTHING), lucky_last_problem() says in words what is wrong.
// - A pointer that is null or not aligned gives LUCKY_STATUS_NULL. A number that is not an id, or the id of another
//   reel, gives LUCKY_STATUS_UNKNOWN. Nothing is changed then, nor after any other problem.
// - What a `_new` or `_load` function makes belongs to the caller, and ends with the `_free` function of its
//   type, once; null is accepted there. Crowds and actors keep their reel: art may be freed before them.
// - All other pointers are read or written during the call, and not kept. They point to what their types say, and
//   lists have as many elements as is said.
// - Texts are UTF-8 and end with a zero byte.
// - Different things may be used on different threads at the same time. LuckyArt may be read by many threads
//   at once; a crowd, an actor, a clock and a player are used by one thread at a time.
// - Two pointers to be written must not point to the same thing.
// - Times are ticks: LUCKY_TICKS_PER_SECOND of them are a second. A LuckyClock turns seconds into ticks.


#ifndef LUCKY_REEL_H
#define LUCKY_REEL_H

#include <stdarg.h>
#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>
#include <stdlib.h>

// So many ticks are a second.
#define LUCKY_TICKS_PER_SECOND 72072000

// The result of a call.
typedef enum {
  // Done.
  LUCKY_STATUS_OK = 0,
  // Done, and there is nothing: nothing to draw, or no such member any more.
  LUCKY_STATUS_NOTHING = 1,
  // A pointer is null that must not be, or not aligned as its type must be.
  LUCKY_STATUS_NULL = 2,
  // A text is not UTF-8.
  LUCKY_STATUS_NOT_TEXT = 3,
  // A name, a number or an id that this reel does not know.
  LUCKY_STATUS_UNKNOWN = 4,
  // A number is out of range.
  LUCKY_STATUS_RANGE = 5,
  // Files or saves cannot be loaded.
  LUCKY_STATUS_LOAD = 6,
  // There are too many.
  LUCKY_STATUS_FULL = 7,
  // A fault of the library; please report it.
  LUCKY_STATUS_BUG = 8,
  // The play has ended or was stopped, so that nothing can follow it.
  LUCKY_STATUS_OVER = 9,
  // The fact is of another role.
  LUCKY_STATUS_OTHER_ROLE = 10,
  // The member is a player, which has no facts and no facing.
  LUCKY_STATUS_NOT_AN_ACTOR = 11,
} LuckyStatus;

// The kinds of events.
typedef enum {
  // A hold came up.
  LUCKY_EVENT_KIND_ENTER,
  // A hold with a mark came up.
  LUCKY_EVENT_KIND_MARK,
  // The boundary of a cycle was crossed.
  LUCKY_EVENT_KIND_CYCLE,
  // A ping-pong turns.
  LUCKY_EVENT_KIND_TURN,
  // The time of the last hold is up.
  LUCKY_EVENT_KIND_END,
  // Another clip goes on.
  LUCKY_EVENT_KIND_NEXT,
  // A cue takes over, or starts over.
  LUCKY_EVENT_KIND_CUE,
  // A bridge begins.
  LUCKY_EVENT_KIND_BRIDGE,
  // Cues would change forever in this instant, and are not evaluated again before something else happens.
  LUCKY_EVENT_KIND_CUE_LOOP,
  // Of a newer version of the library.
  LUCKY_EVENT_KIND_OTHER,
} LuckyEventKind;

// Which way a thing faces on the screen.
typedef enum {
  LUCKY_FACING_DOWN,
  LUCKY_FACING_DOWN_RIGHT,
  LUCKY_FACING_RIGHT,
  LUCKY_FACING_UP_RIGHT,
  LUCKY_FACING_UP,
  LUCKY_FACING_UP_LEFT,
  LUCKY_FACING_LEFT,
  LUCKY_FACING_DOWN_LEFT,
} LuckyFacing;

// Which events are wanted: add them up.
typedef enum {
  // No events: they cost nothing then.
  LUCKY_EVENT_MASK_NONE = 0,
  // Holds that came up.
  LUCKY_EVENT_MASK_ENTERS = 1,
  // Marks.
  LUCKY_EVENT_MASK_MARKS = 2,
  // Cycles and turns.
  LUCKY_EVENT_MASK_CYCLES = 4,
  // Ends, and clips that go on.
  LUCKY_EVENT_MASK_ENDS = 8,
  // Cues and bridges.
  LUCKY_EVENT_MASK_CUES = 16,
  // All events.
  LUCKY_EVENT_MASK_ALL = 31,
} LuckyEventMask;

// What an id is of.
typedef enum {
  // The bits of a LuckyClip.
  LUCKY_KIND_CLIP,
  // The id of an event that is a mark.
  LUCKY_KIND_MARK,
  // The bits of a LuckySpan.
  LUCKY_KIND_SPAN,
  // The bits of a LuckyPoint.
  LUCKY_KIND_POINT,
  // The bits of a LuckyRole.
  LUCKY_KIND_ROLE,
  // The bits of a LuckyCue.
  LUCKY_KIND_CUE,
  // The id of an event that is a bridge.
  LUCKY_KIND_BRIDGE,
  // The bits of a LuckyLook.
  LUCKY_KIND_LOOK,
  // The bits of a LuckyFact.
  LUCKY_KIND_FACT,
  // The bits of a LuckyArea.
  LUCKY_KIND_AREA,
  // The bits of a LuckyKey.
  LUCKY_KIND_DATA,
} LuckyKind;

// An actor, with the reel that it plays from.
typedef struct LuckyActor LuckyActor;

// A reel with its images.
typedef struct LuckyArt LuckyArt;

// Turns the game's seconds into ticks, and carries what is less than a tick, so that nothing is lost.
typedef struct LuckyClock LuckyClock;

// A crowd, with the reel that it plays from.
typedef struct LuckyCrowd LuckyCrowd;

// A role with cues.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckyRole;

// A fact of a role.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckyFact;

// A look.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckyLook;

// A clip.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckyClip;

// What happened, and when.
typedef struct {
  // Ticks from the start of the advance.
  uint64_t at;
  // The clip.
  LuckyClip clip;
  // The hold, from 0.
  uint32_t hold;
  // Cycles that are complete.
  int32_t cycle;
  // The same for the same event of a second run after a rollback.
  uint64_t serial;
  // What happened.
  LuckyEventKind kind;
  // The frame that came up, for `LUCKY_EVENT_KIND_ENTER`.
  uint32_t frame;
  // The bits of the mark, the cue or the bridge, where it is one; else 0.
  uint64_t id;
  // The member's bits, in a crowd; else 0.
  uint64_t member;
} LuckyEvent;

// What a player, an actor or a member shows: a frame and its flips.
typedef struct {
  // The index of the frame in the lower 30 bits, then a bit for each of left to right and top to bottom.
  uint32_t bits;
} LuckyFrame;

// The state of one thing that plays: keep it in the game's own structs, and copy it to roll back later. It
// means nothing in another run of the program. A zeroed struct is not a player, and is refused.
typedef struct {
  // To be kept; not to be changed.
  uint64_t bits[6];
} LuckyPlayer;

// A cue.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckyCue;

// An area of frames.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckyArea;

// Where and how to draw a picture. Begin with `lucky_placement_new`.
typedef struct {
  // Where the pivot goes, in the game's units, y down.
  float position[2];
  // Units for each pixel.
  float scale[2];
  // In radians, clockwise on the screen.
  float rotation;
  // Before others in a depth buffer, or to sort by; for instances.
  float depth;
  // For the game to use; for instances.
  uint16_t user;
  // Red, green, blue and alpha to multiply by; for instances.
  uint8_t tint[4];
  // Red, green and blue to mix toward, and how far, from 0 to 255; alpha stays. For instances.
  uint8_t flash[4];
  // Put onto whole units.
  bool is_snapped;
  // The game's y points up.
  bool is_y_up;
} LuckyPlacement;

// A named rectangle of a picture where it lies when it is drawn. It turns with the art, so it need not be
// upright.
typedef struct {
  // In the units of the placement: in a circle, whichever way round.
  float corners[4][2];
} LuckyBox;

// An image: `height` rows of `width` pixels, four bytes each, red, green, blue and alpha; sRGB, and the
// colors are not multiplied by alpha.
typedef struct {
  // It belongs to the art, and is there as long as that is.
  const uint8_t *rgba;
  // In pixels.
  uint32_t width;
  // In pixels.
  uint32_t height;
} LuckyImage;

// A group of a crowd. Every crowd begins with the group 0.
typedef struct {
  // From 0, in the order in which they were added.
  uint8_t number;
} LuckyGroup;

// What a new member is and how it begins. Begin with `lucky_new_player` or `lucky_new_actor`.
typedef struct {
  // The clip of a player; for an actor it is not read.
  LuckyClip clip;
  // The role of an actor; for a player it is not read.
  LuckyRole role;
  // Whether it is an actor.
  bool is_actor;
  // Whether it is mirrored left to right.
  bool flip_x;
  // Whether it is mirrored top to bottom.
  bool flip_y;
  // Whether a player begins at a random place of its clip, which depends on `seed` and `number` alone.
  bool is_random;
  // Whether an actor is freed once it has vanished, as players are.
  bool is_freed;
  // The group that it is in for as long as it lives.
  LuckyGroup group;
  // See `is_random`.
  uint64_t seed;
  // See `is_random`.
  uint64_t number;
  // 1 is normal.
  double speed;
} LuckyNewMember;

// A member of a crowd. When it is gone, its id is refused; it never reaches another member.
typedef struct {
  // The slot in the upper 32 bits, its generation in the lower. Slots are used again, so that they stay
  // dense: for the game's own lists.
  uint64_t bits;
} LuckyMember;

// A key of the data on marks.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckyKey;

// All that a renderer needs to draw a frame, 48 bytes for an instance buffer. A corner of the unit square, y
// down, lands on `origin + corner.x * axis_x + corner.y * axis_y`, and shows the texel at
// `source.xy + corner * source.zw` of the image.
typedef struct {
  // Where the source's top left corner lands.
  float origin[2];
  // From there to its top right corner.
  float axis_x[2];
  // From there to its bottom left corner.
  float axis_y[2];
  // Left, top, width and height in the image, in pixels.
  uint16_t source[4];
  // The image.
  uint16_t image;
  // For the game to use.
  uint16_t user;
  // Red, green, blue and alpha to multiply by.
  uint8_t tint[4];
  // Red, green and blue to mix toward, and how far; 0 leaves the color as it is. Alpha stays.
  uint8_t flash[4];
  // For a depth buffer, or to sort by.
  float depth;
} LuckyInstance;

// A part of an image, in pixels.
typedef struct {
  uint32_t x;
  uint32_t y;
  uint32_t width;
  uint32_t height;
} LuckyRect;

// A picture in full: a part of an image that was cut from an untrimmed frame.
typedef struct {
  // The image to draw from.
  uint32_t image;
  // Its part.
  LuckyRect source;
  // Width and height of the untrimmed frame, in pixels.
  uint32_t size[2];
  // From the left top corner of the untrimmed frame to that of the part, before flipping, in pixels.
  int32_t shift[2];
  // From the left top corner of the untrimmed frame to its pivot, before flipping, in pixels.
  float pivot[2];
  // Whether it is mirrored left to right about its pivot.
  bool flip_x;
  // Whether it is mirrored top to bottom about its pivot.
  bool flip_y;
} LuckyView;

// A whole-pixel copy from an image to a screen.
typedef struct {
  // The image to copy from.
  uint32_t image;
  // What to copy.
  LuckyRect source;
  // Where its top left goes, in the screen's pixels.
  int32_t at[2];
  // How large it gets, in the screen's pixels.
  uint32_t size[2];
  // Whether it is mirrored left to right within that.
  bool flip_x;
  // Whether it is mirrored top to bottom within that.
  bool flip_y;
} LuckyBlit;

// Four corners with texture coordinates, clockwise on the screen from the top left.
typedef struct {
  // In the units of the placement.
  float corners[4][2];
  // From 0 to 1, y down as images are stored; flips are in here.
  float uv[4][2];
  // The image that they are of.
  uint32_t image;
} LuckyQuad;

// A point of frames.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckyPoint;

// The clip, hold and cycle of a player, and whether it goes on.
typedef struct {
  // The clip that plays.
  LuckyClip clip;
  // The hold that is up, from 0.
  uint32_t hold;
  // Cycles that are complete.
  int32_t cycle;
  // Whether it has come to its end.
  bool has_ended;
  // Whether it is paused.
  bool is_paused;
} LuckyPlayerState;

// A span of clips.
typedef struct {
  // To be kept and compared; it means nothing in another run.
  uint64_t bits;
} LuckySpan;

#ifdef __cplusplus
extern "C" {
#endif // __cplusplus

// The facing of a stick or a velocity, y down, that faced `before`: one of 4 or 8 `directions`.
LuckyStatus lucky_facing_of(float x, float y, uint32_t before, uint32_t directions, uint32_t *out);

// Makes an actor of a role.
LuckyStatus lucky_actor_new(const LuckyArt *art, LuckyRole role, LuckyActor **out);

// Ends an actor.
LuckyStatus lucky_actor_free(LuckyActor *actor);

// Goes on with another version of its reel; another reel is refused.
LuckyStatus lucky_actor_reload(LuckyActor *actor, const LuckyArt *art);

// Sets a fact: a yes/no fact to 0 or 1, a number to a number, a choice to what `lucky_art_choice` gave; 1 sets off a
// pulse. Set facts as they are, every frame.
LuckyStatus lucky_actor_set(LuckyActor *actor,
                            LuckyFact fact,
                            double value);

// Sets which way it faces: a LuckyFacing.
LuckyStatus lucky_actor_set_facing(LuckyActor *actor, uint32_t facing);

// Puts a look on, over the others, or takes it off.
LuckyStatus lucky_actor_wear(LuckyActor *actor, LuckyLook look, bool is_on);

// Advances by so many ticks, with events as `lucky_player_advance` writes them.
LuckyStatus lucky_actor_advance(LuckyActor *actor,
                                uint64_t ticks,
                                LuckyEvent *events,
                                size_t room,
                                size_t *count);

// What it shows; `LUCKY_STATUS_NOTHING` where it has vanished.
LuckyStatus lucky_actor_frame(const LuckyActor *actor, LuckyFrame *out);

// A copy of the player within, to be asked.
LuckyStatus lucky_actor_player(const LuckyActor *actor, LuckyPlayer *out);

// The cue that it follows; `LUCKY_STATUS_NOTHING` before its first advance, and where none matches.
LuckyStatus lucky_actor_cue(const LuckyActor *actor, LuckyCue *out);

// Where a named area of a picture is, for a picture at a place; `LUCKY_STATUS_NOTHING` where the frame has no such
// area.
LuckyStatus lucky_frame_area(const LuckyArt *art,
                             LuckyFrame picture,
                             LuckyArea area,
                             const LuckyPlacement *place,
                             LuckyBox *out);

// Whether two boxes share any space. Edges that only touch share none.
LuckyStatus lucky_box_overlaps(const LuckyBox *one, const LuckyBox *other, bool *out);

// Whether a place lies inside a box, for a click.
LuckyStatus lucky_box_contains(const LuckyBox *area, float x, float y, bool *out);

// Loads reel files and their images into one reel. What is wrong with them is in the problem, with lines.
LuckyStatus lucky_art_load(const char *const *paths, size_t count, LuckyArt **out);

// Loads the next version of a reel: names that survive keep their ids, and players go on where they are.
// `art` stays as it is.
LuckyStatus lucky_art_reload(const LuckyArt *art, const char *const *paths, size_t count, LuckyArt **out);

// Ends art.
LuckyStatus lucky_art_free(LuckyArt *art);

// How many images there are.
LuckyStatus lucky_art_image_count(const LuckyArt *art, uint32_t *out);

// The pixels of an image, by its index from 0.
LuckyStatus lucky_art_image(const LuckyArt *art, uint32_t image, LuckyImage *out);

// Makes a clock that runs at normal speed, and takes 250 ms at most in one step.
LuckyStatus lucky_clock_new(LuckyClock **out);

// Ends a clock.
LuckyStatus lucky_clock_free(LuckyClock *clock);

// A step of so many seconds, in ticks; no time where the seconds are negative or not a number.
LuckyStatus lucky_clock_step(LuckyClock *clock, double seconds, uint64_t *out);

// Slow and fast motion: multiplies all steps by a factor from 0 to 32,767.
LuckyStatus lucky_clock_set_scale(LuckyClock *clock, double factor);

// Makes a crowd without members.
LuckyStatus lucky_crowd_new(const LuckyArt *art, LuckyCrowd **out);

// Ends a crowd.
LuckyStatus lucky_crowd_free(LuckyCrowd *crowd);

// Goes on with another version of its reel; another reel is refused.
LuckyStatus lucky_crowd_reload(LuckyCrowd *crowd, const LuckyArt *art);

// A new player of a clip, at its start, in the first group, at normal speed.
LuckyNewMember lucky_new_player(LuckyClip clip);

// A new actor of a role, in the first group, at normal speed.
LuckyNewMember lucky_new_actor(LuckyRole role);

// Adds a member.
LuckyStatus lucky_crowd_spawn(LuckyCrowd *crowd, const LuckyNewMember *about, LuckyMember *out);

// Removes a member.
LuckyStatus lucky_crowd_remove(LuckyCrowd *crowd, LuckyMember member);

// Plays a clip from its start.
LuckyStatus lucky_crowd_play(LuckyCrowd *crowd, LuckyMember member, LuckyClip clip);

// Plays a clip, if it is not the one last asked for.
LuckyStatus lucky_crowd_switch_to(LuckyCrowd *crowd, LuckyMember member, LuckyClip clip);

// Pauses or resumes.
LuckyStatus lucky_crowd_set_paused(LuckyCrowd *crowd, LuckyMember member, bool paused);

// Sets the speed, as `lucky_player_set_speed`.
LuckyStatus lucky_crowd_set_speed(LuckyCrowd *crowd, LuckyMember member, double speed);

// Holds it for so many ticks of the game, as on a blow that lands.
LuckyStatus lucky_crowd_hit_stop(LuckyCrowd *crowd, LuckyMember member, uint64_t ticks);

// Mirrors it, as `lucky_player_set_flips`.
LuckyStatus lucky_crowd_set_flips(LuckyCrowd *crowd, LuckyMember member, bool x, bool y);

// Puts a look on, over the others, or takes it off.
LuckyStatus lucky_crowd_wear(LuckyCrowd *crowd, LuckyMember member, LuckyLook look, bool is_on);

// Sets a fact of an actor, as `lucky_actor_set`.
LuckyStatus lucky_crowd_set(LuckyCrowd *crowd, LuckyMember member, LuckyFact fact, double value);

// Sets which way an actor faces: a LuckyFacing.
LuckyStatus lucky_crowd_set_facing(LuckyCrowd *crowd, LuckyMember member, uint32_t facing);

// Advances all members by so many ticks, and keeps the events of this LuckyEventMask for
// `lucky_crowd_events`.
LuckyStatus lucky_crowd_advance(LuckyCrowd *crowd, uint64_t ticks, uint32_t mask);

// The events of the last advance, or of the group that was woken last, member by member in the order of their slots.
// The list belongs to the crowd: it is there until the next advance, wake, reload or free. The crowd may be changed
// while it is read.
LuckyStatus lucky_crowd_events(const LuckyCrowd *crowd,
                               const LuckyEvent **events,
                               size_t *count);

// How many members there are, and below which number their slots are.
LuckyStatus lucky_crowd_count(const LuckyCrowd *crowd, size_t *members, size_t *slots);

// What a member shows; `LUCKY_STATUS_NOTHING` where it is gone.
LuckyStatus lucky_crowd_frame(const LuckyCrowd *crowd, LuckyMember member, LuckyFrame *out);

// The number that the mark of an event carries under a key; yes is 1 and no is 0. `LUCKY_STATUS_NOTHING` where it carries
// no number of this key, or the event is no mark.
LuckyStatus lucky_event_number(const LuckyArt *art,
                               const LuckyEvent *event,
                               LuckyKey key,
                               double *out);

// Writes the text that the mark of an event carries under a key, as `lucky_art_name` writes a name.
// `LUCKY_STATUS_NOTHING` where it carries no text of this key, or the event is no mark.
LuckyStatus lucky_event_text(const LuckyArt *art,
                             const LuckyEvent *event,
                             LuckyKey key,
                             char *out,
                             size_t size);

// Adds a group; 256 is the most that a crowd can have.
LuckyStatus lucky_crowd_add_group(LuckyCrowd *crowd, LuckyGroup *out);

// Scales the time of a group by a factor from 0 to 32,767: 0.5 for slow motion, 0 for a pause.
LuckyStatus lucky_crowd_set_group_scale(LuckyCrowd *crowd, LuckyGroup group, double factor);

// Leaves a group out of advances until it is woken: for what is off the screen. Its time is counted and costs
// nothing.
LuckyStatus lucky_crowd_sleep_group(LuckyCrowd *crowd, LuckyGroup group);

// Wakes a group, whose members are where they would be had they never slept, and keeps the events of this
// LuckyEventMask for `lucky_crowd_events`, those of the last hour at most.
LuckyStatus lucky_crowd_wake_group(LuckyCrowd *crowd, LuckyGroup group, uint32_t mask);

// Writes an instance for each member that shows something, in the order of slots, and how many these are to
// `count`. Each lies at the position with the number of its slot, at the size of the art; members without a
// position are left out. `positions` are an x and a y for each. Where there is no room for all, `LUCKY_STATUS_FULL`: the first ones are written.
LuckyStatus lucky_crowd_instances(LuckyCrowd *crowd,
                                  const float *positions,
                                  size_t position_count,
                                  LuckyInstance *out,
                                  size_t room,
                                  size_t *count);

// As `lucky_crowd_instances`, for members that are scaled, turned or tinted: there is a place for each slot, or
// `LUCKY_STATUS_RANGE`.
LuckyStatus lucky_crowd_instances_placed(LuckyCrowd *crowd,
                                         const LuckyPlacement *places,
                                         size_t place_count,
                                         LuckyInstance *out,
                                         size_t room,
                                         size_t *count);

// Looks an id up by its kind and its name, `role/name`, or `name` where only one role has it:
// `lucky_art_id(art, LUCKY_KIND_CLIP, "walk", &walk.bits)` with a LuckyClip `walk`.
LuckyStatus lucky_art_id(const LuckyArt *art, uint32_t kind, const char *name, uint64_t *bits);

// Writes the name of an id of this kind, without its role, as a text of at most `size` bytes with its zero; cut
// off where it is longer.
LuckyStatus lucky_art_name(const LuckyArt *art,
                           uint32_t kind,
                           uint64_t bits,
                           char *out,
                           size_t size);

// The number by which a fact is set to one of its choices.
LuckyStatus lucky_art_choice(const LuckyArt *art, LuckyFact fact, const char *word, double *out);

// A picture in full, for renderers that place it themselves.
LuckyStatus lucky_frame_view(const LuckyArt *art, LuckyFrame picture, LuckyView *out);

// How to copy a picture with its pivot at `x`, `y`, each of its pixels `scale` pixels wide and high.
LuckyStatus lucky_frame_blit(const LuckyArt *art,
                             LuckyFrame picture,
                             int32_t x,
                             int32_t y,
                             uint32_t scale,
                             LuckyBlit *out);

// A placement at a position, at the size of the art, upright, not tinted.
LuckyPlacement lucky_placement_new(float x, float y);

// The corners of a picture at a place.
LuckyStatus lucky_frame_quad(const LuckyArt *art,
                             LuckyFrame picture,
                             const LuckyPlacement *place,
                             LuckyQuad *out);

// Where a named point of a picture is, for a picture at a place; `LUCKY_STATUS_NOTHING` where the frame has no
// such point.
LuckyStatus lucky_frame_point(const LuckyArt *art,
                              LuckyFrame picture,
                              LuckyPoint point,
                              const LuckyPlacement *place,
                              float (*out)[2]);

// A player of a clip. It stands at its start, and begins to play with the first advance.
LuckyStatus lucky_player_new(const LuckyArt *art, LuckyClip clip, LuckyPlayer *out);

// Plays a clip from its start.
LuckyStatus lucky_player_play(const LuckyArt *art, LuckyPlayer *player, LuckyClip clip);

// Plays a clip, if it is not the one last asked for: call it every frame.
LuckyStatus lucky_player_switch_to(const LuckyArt *art, LuckyPlayer *player, LuckyClip clip);

// Names the clip that follows the present one, instead of what that says itself.
LuckyStatus lucky_player_then(const LuckyArt *art, LuckyPlayer *player, LuckyClip clip);

// Starts the clip last asked for again.
LuckyStatus lucky_player_restart(const LuckyArt *art, LuckyPlayer *player);

// Stands on the rest hold of the clip.
LuckyStatus lucky_player_stop(const LuckyArt *art, LuckyPlayer *player);

// Pauses or resumes.
LuckyStatus lucky_player_set_paused(const LuckyArt *art, LuckyPlayer *player, bool paused);

// Sets the speed: 1 is normal, 0 stands still, below 0 plays backward; from -32,767 to 32,767.
LuckyStatus lucky_player_set_speed(const LuckyArt *art, LuckyPlayer *player, double speed);

// Mirrors it about its pivot, left to right and top to bottom.
LuckyStatus lucky_player_set_flips(const LuckyArt *art, LuckyPlayer *player, bool x, bool y);

// Goes to a time from the start of the clip, in ticks.
LuckyStatus lucky_player_seek(const LuckyArt *art, LuckyPlayer *player, uint64_t ticks);

// Advances by so many ticks. The first `room` events are written to `events`, and how many these are to
// `count`; where there are more, `LUCKY_STATUS_FULL`: the player has advanced, and the others are lost. With no
// room and null for both pointers, events cost nothing.
LuckyStatus lucky_player_advance(const LuckyArt *art,
                                 LuckyPlayer *player,
                                 uint64_t ticks,
                                 LuckyEvent *events,
                                 size_t room,
                                 size_t *count);

// What it shows; `LUCKY_STATUS_NOTHING` where it has vanished.
LuckyStatus lucky_player_frame(const LuckyArt *art, const LuckyPlayer *player, LuckyFrame *out);

// The state of a player.
LuckyStatus lucky_player_state(const LuckyArt *art, const LuckyPlayer *player, LuckyPlayerState *out);

// Whether a player stands within a span of its clip.
LuckyStatus lucky_player_in_span(const LuckyArt *art, const LuckyPlayer *player, LuckySpan span, bool *out);

// Writes a player as at most `room` bytes to `bytes`, and how many they are to `size`. Where there is no room for all,
// `LUCKY_STATUS_FULL`: nothing is written but the size, so that null and no room ask for it.
LuckyStatus lucky_player_save(const LuckyArt *art,
                              const LuckyPlayer *player,
                              uint8_t *bytes,
                              size_t room,
                              size_t *size);

// Makes a player of what `lucky_player_save` has written. Names that the reel has lost are `LUCKY_STATUS_UNKNOWN`;
// where `is_strict` is false, only the clip itself is.
LuckyStatus lucky_player_load(const LuckyArt *art,
                              const uint8_t *bytes,
                              size_t size,
                              bool is_strict,
                              LuckyPlayer *out);

// Writes an actor, as `lucky_player_save` writes a player.
LuckyStatus lucky_actor_save(const LuckyActor *actor, uint8_t *bytes, size_t room, size_t *size);

// Makes an actor of what `lucky_actor_save` has written. Names that the reel has lost are `LUCKY_STATUS_UNKNOWN`;
// where `is_strict` is false, only its role and its clip are: facts, cues and looks that are gone are left out.
LuckyStatus lucky_actor_load(const LuckyArt *art,
                             const uint8_t *bytes,
                             size_t size,
                             bool is_strict,
                             LuckyActor **out);

// Writes a crowd, as `lucky_player_save` writes a player. Members keep their ids.
LuckyStatus lucky_crowd_save(const LuckyCrowd *crowd, uint8_t *bytes, size_t room, size_t *size);

// Makes a crowd of what `lucky_crowd_save` has written. Names that the reel has lost are `LUCKY_STATUS_UNKNOWN`;
// where `is_strict` is false, members whose clip or role is gone are left out.
LuckyStatus lucky_crowd_load(const LuckyArt *art,
                             const uint8_t *bytes,
                             size_t size,
                             bool is_strict,
                             LuckyCrowd **out);

// The last problem on this thread, in words, with how to fix it; empty before the first. The text stays as
// it is until the next problem on this thread.
const char *lucky_last_problem(void);

#ifdef __cplusplus
}  // extern "C"
#endif  // __cplusplus

#endif  /* LUCKY_REEL_H */
