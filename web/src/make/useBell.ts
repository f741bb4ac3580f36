import { useEffect, useRef } from "react";
import { create } from "zustand";

const KEPT = "keen-pitcher/bell";

/** Whether the end of a wait is heard: it is until somebody silences it. It is a choice of this device. */
export const useBellChoice = create<{ on: boolean; set: (on: boolean) => void }>((set) => ({
  on: localStorage.getItem(KEPT) !== "off",
  set: (on) => {
    localStorage.setItem(KEPT, on ? "on" : "off");
    // A browser that may ask is asked; where it may not, the sound and the title are enough.
    if (on && "Notification" in window && Notification.permission === "default")
      void Notification.requestPermission();
    set({ on });
  },
}));

/** Two short tones, made by the browser itself. A browser lets them be heard once the page was touched. */
function ring() {
  try {
    const audio = new AudioContext();
    [880, 1174].forEach((pitch, i) => {
      const tone = audio.createOscillator();
      const loud = audio.createGain();
      tone.frequency.value = pitch;
      loud.gain.setValueAtTime(0.2, audio.currentTime + i * 0.25);
      loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + i * 0.25 + 0.22);
      tone.connect(loud).connect(audio.destination);
      tone.start(audio.currentTime + i * 0.25);
      tone.stop(audio.currentTime + i * 0.25 + 0.24);
    });
  } catch {
    // Where there is no sound, the title says it.
  }
}

function notify(text: string) {
  if (!("Notification" in window) || Notification.permission !== "granted") return;
  try {
    new Notification("Keen Pitcher", { body: text });
  } catch {
    // Some phones allow them to a page only from elsewhere.
  }
}

/** A wait that is over. */
export interface Over {
  key: string;
  sentence: string;
}

/** Each wait that is over is heard once. */
export function useBell(over: Over[]) {
  const heard = useRef(new Set<string>());
  const on = useBellChoice((state) => state.on);
  const names = over.map((wait) => wait.key).join(" ");
  const latest = useRef(over);
  useEffect(() => {
    latest.current = over;
  });
  useEffect(() => {
    const fresh = latest.current.filter((wait) => !heard.current.has(wait.key));
    fresh.forEach((wait) => heard.current.add(wait.key));
    if (fresh.length === 0 || !on) return;
    ring();
    notify(`Time’s up: ${fresh.map((wait) => wait.sentence).join(" ")}`);
  }, [names, on]);
}
