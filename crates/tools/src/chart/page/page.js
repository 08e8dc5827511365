"use strict";
// Time is counted in ticks, as in the library; a hold is up from its start up to its end.
const data = JSON.parse(document.getElementById("data").textContent);
const byId = (id) => document.getElementById(id);
const REST = 1; // seconds that a finite clip rests before it plays again
let running = true, speed = 1, zoom = 4, last = null;

const images = data.images.map((address) => {
  const image = new Image();
  image.src = address;
  return image;
});

const element = (kind, parent, name, text) => {
  const made = document.createElement(kind);
  if (name) made.className = name;
  if (text !== undefined) made.textContent = text;
  parent.append(made);
  return made;
};

const milliseconds = (ticks) => (Math.round(ticks / data.ticks * 1e5) / 100) + " ms";

class Clip {
  constructor(about) {
    Object.assign(this, about);
    this.time = 0;
    const sides = this.holds.map(([, , , w, h, x, y]) => [x, y, x + w, y + h]);
    this.left = Math.min(...sides.map((side) => side[0]));
    this.top = Math.min(...sides.map((side) => side[1]));
    this.size = [Math.max(...sides.map((side) => side[2])) - this.left,
      Math.max(...sides.map((side) => side[3])) - this.top];
    const card = element("article", byId("clips"));
    element("h2", card, "", this.name);
    element("p", card, "", this.about + (this.then ? ", then " + this.then : ""));
    this.canvas = element("canvas", element("div", card, "stage"));
    [this.canvas.width, this.canvas.height] = this.size;
    this.canvas.dataset.clip = this.name;
    this.makeBar(card);
    this.now = element("p", card, "now");
    this.resize();
  }

  makeBar(card) {
    this.bar = element("div", card, "bar");
    const share = (ticks) => 100 * ticks / Math.max(this.total, 1) + "%";
    let start = 0;
    this.parts = this.steps.map(([hold, end]) => {
      const part = element("div", this.bar, "hold", this.still ? "stands" : String(hold));
      part.style.left = share(start);
      part.style.width = this.still ? "100%" : share(end - start);
      part.title = this.still ? "a still" : `hold ${hold}: ${milliseconds(end - start)}`;
      start = end;
      return part;
    });
    this.starts = [0, ...this.steps.map(([, end]) => end)];
    const names = {};
    for (const [hold, name] of this.marks) (names[hold] ??= []).push(name);
    this.steps.forEach(([hold], nth) => {
      if (!names[hold]) return;
      const notch = element("div", this.bar, "notch");
      notch.style.left = share(this.starts[nth]);
      // Names would lie over one another where holds are short: each is there as a hint.
      const wide = (this.steps[nth][1] - this.starts[nth]) / this.total > 0.16;
      if (wide) element("span", notch, "", names[hold].join(", "));
      this.parts[nth].title += ", " + names[hold].join(", ");
    });
    this.place = element("div", this.bar, "place");
    const seek = (event) => {
      if (this.still || !(event.buttons & 1)) return;
      const box = this.bar.getBoundingClientRect();
      const at = Math.min(Math.max((event.clientX - box.left) / box.width, 0), 1);
      setRunning(false);
      this.time = Math.min(Math.floor(at * this.total), this.total - 1);
      this.draw();
    };
    this.bar.addEventListener("pointerdown", (event) => {
      this.bar.setPointerCapture(event.pointerId);
      seek(event);
    });
    this.bar.addEventListener("pointermove", seek);
  }

  // The names of marks stay within the bar.
  placeNames() {
    const end = this.bar.getBoundingClientRect().right;
    for (const name of this.bar.querySelectorAll(".notch span")) {
      name.style.left = "0px";
      name.style.left = Math.min(0, end - name.getBoundingClientRect().right) + "px";
    }
  }

  resize() {
    this.canvas.style.width = this.size[0] * zoom + "px";
    this.canvas.style.height = this.size[1] * zoom + "px";
  }

  advance(ticks) {
    if (this.still) return;
    this.time += ticks;
    const whole = this.end === "never" ? this.total : this.total + REST * data.ticks;
    if (this.time >= whole) this.time %= whole;
  }

  // The step that is up; past the end of a finite clip what its end says.
  step() {
    if (this.still) return 0;
    const at = Math.floor(this.time);
    const found = this.steps.findIndex(([, end]) => at < end);
    if (found >= 0) return found;
    return { vanish: -1, first: 0 }[this.end] ?? this.steps.length - 1;
  }

  stepBy(by) {
    if (this.still) return;
    const count = this.steps.length;
    const now = this.time >= this.total ? count : this.step();
    const next = this.end === "never" ? (now + by + count) % count : Math.min(Math.max(now + by, 0), count - 1);
    this.time = this.starts[next];
    this.draw();
  }

  draw() {
    const step = this.step();
    const context = this.canvas.getContext("2d");
    context.clearRect(0, 0, ...this.size);
    context.imageSmoothingEnabled = false;
    const hold = step < 0 ? null : this.steps[step][0];
    if (hold !== null) {
      const [image, x, y, w, h, left, top, mirrored] = this.holds[hold];
      context.save();
      context.translate(left - this.left, top - this.top);
      if (mirrored) {
        context.translate(w, 0);
        context.scale(-1, 1);
      }
      context.drawImage(images[image], x, y, w, h, 0, 0, w, h);
      context.restore();
    }
    this.parts.forEach((part, nth) => part.classList.toggle("up", nth === step));
    const at = Math.min(this.time, this.total);
    this.place.style.left = 100 * at / Math.max(this.total, 1) + "%";
    this.place.hidden = this.still;
    this.now.textContent = hold === null ? "vanished" : this.still ? "hold 0"
      : `hold ${hold} for ${milliseconds(this.times[hold])}  ·  at ${milliseconds(Math.floor(at))}`;
  }
}

const clips = data.clips.map((clip) => new Clip(clip));

function setRunning(on) {
  running = on;
  last = null;
  byId("run").textContent = on ? "Pause" : "Play";
}

function frame(now) {
  if (running) {
    // A page that was hidden does not catch up.
    const passed = last === null ? 0 : Math.min(now - last, 250);
    last = now;
    for (const clip of clips) {
      clip.advance(passed / 1000 * data.ticks * speed);
      clip.draw();
    }
  }
  requestAnimationFrame(frame);
}

byId("run").addEventListener("click", () => setRunning(!running));
for (const [id, by] of [["back", -1], ["on", 1]]) {
  byId(id).addEventListener("click", () => {
    setRunning(false);
    clips.forEach((clip) => clip.stepBy(by));
  });
}
byId("speed").addEventListener("input", (event) => {
  speed = Number(event.target.value);
  byId("factor").textContent = speed.toFixed(2);
});
byId("zoom").addEventListener("change", (event) => {
  zoom = Number(event.target.value);
  clips.forEach((clip) => clip.resize());
});
byId("theme").addEventListener("click", () => document.documentElement.classList.toggle("light"));
if (matchMedia("(prefers-color-scheme: light)").matches) document.documentElement.classList.add("light");

// PAGE#at=250ms: all clips paused at that time.
function followAddress() {
  const found = /^#at=([0-9.]+)(ms|s|t)$/.exec(location.hash);
  if (!found) return;
  const unit = { ms: data.ticks / 1000, s: data.ticks, t: 1 }[found[2]];
  setRunning(false);
  for (const clip of clips) {
    const time = Math.floor(Number(found[1]) * unit);
    clip.time = clip.end === "never" ? time % Math.max(clip.total, 1) : time;
    clip.draw();
  }
}

Promise.all(images.map((image) => image.decode())).then(() => {
  clips.forEach((clip) => clip.draw());
  followAddress();
  addEventListener("hashchange", followAddress);
  const placeNames = () => clips.forEach((clip) => clip.placeNames());
  placeNames();
  addEventListener("resize", placeNames);
  document.documentElement.dataset.ready = "yes";
  requestAnimationFrame(frame);
});
