import type { Schemas } from "../api/client";
import { colour } from "../ui/theme";

type Mark = Schemas["Mark"];

export const marks: Mark[] = ["drop", "leaf", "sun", "key", "bell", "star", "moon", "boat"];

/** Small signs that tell tasters apart without colour, in a box of 16 by 16. */
const drawn: Record<Mark, string> = {
  drop: "M8 1.5C10.5 5 12.5 7.4 12.5 10A4.5 4.5 0 0 1 3.5 10C3.5 7.4 5.5 5 8 1.5Z",
  leaf: "M2.5 13.5C2 6 6.5 2.5 14 2C14 9.5 10 14 4.5 12M2.5 14.5L9 7.5",
  sun: "M8 5A3 3 0 1 0 8 11A3 3 0 1 0 8 5ZM8 1V3M8 13V15M1 8H3M13 8H15M3 3L4.5 4.5M11.5 11.5L13 13M3 13L4.5 11.5M11.5 4.5L13 3",
  key: "M5 5A3 3 0 1 0 5 11A3 3 0 1 0 5 5ZM8 8H14.5V11M11.5 8V10.5",
  bell: "M3 12C4.5 10.5 4 8 4.5 6A3.5 3.5 0 0 1 11.5 6C12 8 11.5 10.5 13 12ZM6.5 14H9.5",
  star: "M8 1.5L9.9 5.9L14.6 6.3L11 9.4L12.1 14L8 11.5L3.9 14L5 9.4L1.4 6.3L6.1 5.9Z",
  moon: "M11.5 12.5A6 6 0 0 1 9 1.5A6.5 6.5 0 1 0 14 10A6 6 0 0 1 11.5 12.5Z",
  boat: "M2 10.5H14L11.5 14H4.5ZM8 10V1.5L12.5 8.5H8M7 4L4 8.5H7",
};

/** A taster's sign. */
export function MarkSign({ mark, size = 18 }: { mark: Mark | undefined; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden style={{ flexShrink: 0 }}>
      <MarkPath mark={mark} />
    </svg>
  );
}

/** The same inside another drawing. */
export function MarkPath({ mark }: { mark: Mark | undefined }) {
  return (
    <path
      d={drawn[mark ?? "drop"]}
      fill="none"
      stroke={colour("ink")}
      strokeWidth={1.5}
      strokeLinejoin="round"
      strokeLinecap="round"
    />
  );
}
