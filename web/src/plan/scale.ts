/**
 * Where a time lies on the strip. Stretches in which nobody does anything (the night, four hours of
 * chilling) are folded, so that the minutes with work in them have room.
 */

export interface Span {
  readonly from: number;
  readonly to: number;
}

export interface Segment extends Span {
  /** Where it begins and ends on the strip, px. */
  readonly start: number;
  readonly end: number;
  readonly folded: boolean;
}

export interface Scale {
  readonly segments: readonly Segment[];
  /** Where a time lies, px. */
  at(minutes: number): number;
  /** The px that a minute has where there is work. */
  readonly perMinute: number;
}

/** Stretches longer than this without work are folded, minutes. */
const FOLD_FROM = 75;
/** What a folded stretch takes, px. */
const FOLDED = 92;
/** An hour has at least and at most so many px. */
const HOUR: Span = { from: 96, to: 560 };

/** A strip of about `length` px over the times at which something is done. */
export function stripScale(work: readonly Span[], whole: Span, length: number): Scale {
  const busy = [...work, { from: whole.to, to: whole.to }].sort((a, b) => a.from - b.from);
  const pieces: { from: number; to: number; folded: boolean }[] = [];
  let at = whole.from;
  const upTo = (to: number, folded: boolean) => {
    if (to <= at) return;
    const last = pieces.at(-1);
    if (last && last.folded === folded) pieces[pieces.length - 1] = { ...last, to };
    else pieces.push({ from: at, to, folded });
    at = to;
  };
  for (const span of busy) {
    if (span.from - at > FOLD_FROM) {
      // A few minutes of it stay, so that what ends there is seen to end.
      upTo(at + 8, false);
      upTo(span.from - 8, true);
    }
    upTo(Math.max(span.to, at), false);
  }
  upTo(whole.to, false);
  const open = pieces.filter((p) => !p.folded).reduce((sum, p) => sum + p.to - p.from, 0);
  const folds = pieces.filter((p) => p.folded).length * FOLDED;
  const wanted = ((length - folds) / Math.max(open, 1)) * 60;
  const perMinute = Math.min(Math.max(wanted, HOUR.from), HOUR.to) / 60;
  let x = 0;
  const segments = pieces.map((piece) => {
    const start = x;
    x += piece.folded ? FOLDED : (piece.to - piece.from) * perMinute;
    return { ...piece, start, end: x };
  });
  return {
    segments,
    perMinute,
    at(minutes) {
      const first = segments[0];
      const last = segments.at(-1);
      if (!first || !last) return 0;
      if (minutes <= first.from) return first.start;
      const found = segments.find((s) => minutes <= s.to);
      if (!found) return last.end + (minutes - last.to) * perMinute;
      const share = (minutes - found.from) / Math.max(found.to - found.from, 1e-9);
      return found.start + share * (found.end - found.start);
    },
  };
}
