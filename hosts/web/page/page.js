// Timestamps, keys and files in; pictures out. What plays is behind `playing`: the game or the viewer.
import init, { DroppedFile, Greenhouse, Viewer } from "./greenhouse_web.js";

const find = (what) => document.querySelector(what);
const screen = find("canvas");
const [clip, speed] = [find("#clip"), find("#speed")];
const pen = screen.getContext("2d", { alpha: false });

await init();
// `?seconds=2.5&moths=60&still` begins later, with other moths, and stands still.
const query = new URLSearchParams(location.search);
const game = new Greenhouse(Number(query.get("moths") ?? 60), Number(query.get("seconds") ?? 0));
const gameImages = upload(game.images());
let [playing, images] = [game, gameImages];

// Each image on a canvas of its own, from which parts are copied.
function upload(list) {
  return list.map((image) => {
    const pixels = new ImageData(image.rgba, image.width);
    const canvas = new OffscreenCanvas(pixels.width, pixels.height);
    canvas.getContext("2d").putImageData(pixels, 0, 0);
    image.free();
    return canvas;
  });
}

function draw() {
  if (playing !== game) {
    const [left, above, right, below] = playing.room();
    [screen.width, screen.height] = [Math.max(left + right, 1), Math.max(above + below, 1)];
  }
  // As large as whole pixels fit above the buttons.
  const fits = Math.min(innerWidth / screen.width, (innerHeight - 180) / screen.height);
  screen.style.width = `${screen.width * Math.max(Math.floor(fits), 1)}px`;
  pen.fillStyle = playing === game ? "#000" : "#26323a";
  pen.fillRect(0, 0, screen.width, screen.height);
  pen.imageSmoothingEnabled = false;
  const copies = playing === game ? game.draw() : playing.draw(...playing.room());
  for (let i = 0; i < copies.length; i += 8) {
    const [image, x, y, width, height, left, top, flips] = copies.subarray(i, i + 8);
    const [flipX, flipY] = [flips & 1, flips >> 1];
    pen.setTransform(1 - 2 * flipX, 0, 0, 1 - 2 * flipY, left + width * flipX, top + height * flipY);
    pen.drawImage(images[image], x, y, width, height, 0, 0, width, height);
  }
  pen.resetTransform();
  find("#status").textContent = playing.status();
}

function frame(timestamp) {
  playing.play(timestamp);
  draw();
  requestAnimationFrame(frame);
}

for (const [type, isDown] of [["keydown", true], ["keyup", false]]) {
  addEventListener(type, (event) => {
    if (playing !== game || event.repeat) return;
    game.key(event.code, isDown);
    if (event.code.startsWith("Arrow") || event.code === "Space") event.preventDefault();
  });
}
for (const button of document.querySelectorAll("[data-code]")) {
  const press = (isDown) => () => game.key(button.dataset.code, isDown);
  button.addEventListener("pointerdown", press(true));
  for (const type of ["pointerup", "pointercancel", "pointerleave"]) {
    button.addEventListener(type, press(false));
  }
}

// Plays what was dropped, or says what is wrong with it and goes on as before.
async function open(files) {
  try {
    const bytes = await Promise.all(files.map((file) => file.arrayBuffer()));
    const dropped = bytes.map((all, i) => new DroppedFile(files[i].name, new Uint8Array(all)));
    if (playing === game) playing = Viewer.open(dropped);
    else playing.reload(dropped);
    images = upload(playing.images());
    clip.replaceChildren(...playing.clips().map((name) => new Option(name)));
    clip.value = playing.clip();
    playing.set_speed(Number(speed.value));
    find("#problem").textContent = "";
  } catch (error) {
    find("#problem").textContent = error.message;
  }
  document.body.classList.toggle("is-viewer", playing !== game);
}
find("#files").addEventListener("change", ({ target }) => {
  const files = Array.from(target.files);
  target.value = ""; // so that the same files can be chosen again
  open(files);
});
addEventListener("dragover", (event) => event.preventDefault());
addEventListener("drop", (event) => {
  event.preventDefault();
  open(Array.from(event.dataTransfer.files));
});
clip.addEventListener("change", () => playing.show(clip.value, Number(speed.value)));
speed.addEventListener("input", () => {
  playing.set_speed(Number(speed.value));
  find("output").textContent = speed.value;
});
find("#back").addEventListener("click", () => {
  playing.free();
  [playing, images] = [game, gameImages];
  [screen.width, screen.height] = [320, 200];
  document.body.classList.remove("is-viewer");
});

if (query.has("still")) draw();
else requestAnimationFrame(frame);
