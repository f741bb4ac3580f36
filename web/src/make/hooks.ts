import { useEffect, useRef, useState } from "react";
import type { BatchView } from "../api/client";
import { momentOf } from "./clock";
import type { Say } from "./useBatch";

/** The time, each second, ms. */
export function useNow(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/**
 * The time of a batch as a moment. The server says what time it is, so that a phone whose clock is wrong
 * counts right; in the practice kitchen the clock may be hurried.
 */
export function momentNow(
  batch: { begun_at: string; now: number; rate: number },
  heardAt: number,
  now: number,
): number {
  const since = (Math.max(now - heardAt, 0) * batch.rate) / 60_000;
  return momentOf(batch.begun_at, batch.now + since);
}

/** What time it is for a batch, each second. Only what counts with it redraws: so it is asked for as far down as can be. */
export function useMoment(batch: Parameters<typeof momentNow>[0], heardAt: number): number {
  return momentNow(batch, heardAt, useNow());
}

/** The screen stays awake where the browser allows it. */
export function useAwake() {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    const hold = () => {
      if (document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      navigator.wakeLock.request("screen").then(
        (held) => (lock = held),
        () => undefined,
      );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, []);
}

interface Keys {
  view: BatchView;
  onDone: () => void;
  say: Say;
  active: boolean;
}

/** The last thing that was said and stands. */
export function lastSaid(view: BatchView): number {
  return view.said.findLastIndex(
    (s, i) => !("taken_back" in s.what) && !view.taken_back.includes(i),
  );
}

/** Space and Enter say done, Backspace takes the last thing back. */
export function useKeys({ view, onDone, say, active }: Keys) {
  useEffect(() => {
    if (!active || view.finished_at != null) return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (target.closest?.("input, textarea, [role=dialog], [role=slider]")) return;
      // A button hears Space and Enter itself.
      const pressed = target.closest?.("button, a");
      if ((event.key === " " || event.key === "Enter") && !pressed) {
        event.preventDefault();
        onDone();
      }
      if (event.key === "Backspace") {
        event.preventDefault();
        const last = lastSaid(view);
        if (last >= 0) void say({ taken_back: { of: last } });
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}

/** Whether a browser can speak, and says something aloud. */
export function readAloud(text: string) {
  if (!("speechSynthesis" in window)) return;
  window.speechSynthesis.cancel();
  const said = new SpeechSynthesisUtterance(text);
  said.lang = "en";
  window.speechSynthesis.speak(said);
}

export const canSpeak = () => "speechSynthesis" in window;

/** How far a finger goes to the right for a swipe, and how much it may stray up or down, px. */
const SWIPE = { far: 90, stray: 60 };

/** A swipe to the right says done. */
export function useSwipe(onDone: () => void) {
  const from = useRef<{ x: number; y: number } | undefined>(undefined);
  return {
    onTouchStart: (event: React.TouchEvent) => {
      const touch = event.touches[0];
      const plain = !(event.target as HTMLElement).closest("button, a, input, [data-scrolls]");
      from.current =
        plain && touch && event.touches.length === 1
          ? { x: touch.clientX, y: touch.clientY }
          : undefined;
    },
    onTouchEnd: (event: React.TouchEvent) => {
      const [start, touch] = [from.current, event.changedTouches[0]];
      from.current = undefined;
      if (!start || !touch) return;
      const far = touch.clientX - start.x;
      if (far > SWIPE.far && Math.abs(touch.clientY - start.y) < SWIPE.stray) onDone();
    },
  };
}
