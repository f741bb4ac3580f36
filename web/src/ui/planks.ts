import { colour } from "./theme";

interface Planks {
  /** How narrow a place may get, as CSS. */
  narrowest: string;
  rowGap: number;
  /** How thick the plank is beyond its edge. */
  thick?: object;
}

/** A list as vessels on planks. The last plank goes on to the wall, however few stand on it. */
export function planks({ narrowest, rowGap, thick }: Planks) {
  return {
    listStyle: "none",
    m: 0,
    p: 0,
    display: "grid",
    gridTemplateColumns: `repeat(auto-fill, minmax(${narrowest}, 1fr))`,
    rowGap,
    overflowX: "clip",
    "& > li:last-of-type .plank::after": {
      content: '""',
      position: "absolute",
      left: "100%",
      top: -2,
      width: "100vw",
      borderTop: `2px solid ${colour("ink")}`,
      ...thick,
    },
  } as const;
}
