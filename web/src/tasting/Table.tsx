import Box from "@mui/material/Box";
import { useId, type ReactNode } from "react";
import { Radios } from "../ui/Radios";
import { colour, displayFont } from "../ui/theme";
import { useSize } from "../ui/useSize";
import { useTitle } from "../ui/useTitle";
import { VesselDrawing } from "../ui/vessel";

/** The title of a room, and a sentence under it. */
export function Title({ children, under }: { children: string | string[]; under?: ReactNode }) {
  useTitle([children].flat().join(""));
  return (
    <Box component="header" sx={{ mb: 2, mt: 0.5 }}>
      <Box
        component="h1"
        sx={{
          ...displayFont,
          fontSize: { xs: 28, sm: 34 },
          lineHeight: 1.1,
          fontWeight: 700,
          letterSpacing: "-0.02em",
          m: 0,
          overflowWrap: "anywhere",
        }}
      >
        {children}
      </Box>
      {under && <Box sx={{ mt: 0.75, fontSize: { xs: 15, sm: 17 }, maxWidth: 820 }}>{under}</Box>}
    </Box>
  );
}

/** A room: everything under the places. */
export function Room({ children }: { children: ReactNode }) {
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 8, flex: 1, minWidth: 0 }}>
      {children}
    </Box>
  );
}

/** A part of a room, with its name. */
export function Part({ name, children }: { name: string; children: ReactNode }) {
  const id = useId();
  return (
    <Box component="section" aria-labelledby={id} sx={{ mb: 3.5 }}>
      <Box
        component="h2"
        id={id}
        sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0, mb: 1 }}
      >
        {name}
      </Box>
      {children}
    </Box>
  );
}

/** A choice of few, as large buttons beside each other. */
export function Few<T extends string | number>(props: {
  label: string;
  options: readonly (readonly [T, string])[];
  chosen: T;
  onChoose: (value: T) => void;
}) {
  const { label, options, chosen, onChoose } = props;
  return (
    <Radios label={label} sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
      {options.map(([value, text]) => (
        <Box
          key={value}
          component="button"
          type="button"
          role="radio"
          aria-checked={value === chosen}
          onClick={() => onChoose(value)}
          sx={{
            font: "inherit",
            fontWeight: 600,
            minHeight: 44,
            minWidth: 44,
            px: 1.75,
            borderRadius: "12px",
            cursor: "pointer",
            color: colour(value === chosen ? "onCobalt" : "ink"),
            bgcolor: colour(value === chosen ? "cobalt" : "enamel"),
            border: `1.5px solid ${colour(value === chosen ? "cobalt" : "muted")}`,
          }}
        >
          {text}
        </Box>
      ))}
    </Radios>
  );
}

export interface GlassOnTable {
  key: string;
  /** What stands under it, large. */
  label: string;
  /** A smaller line under that. */
  under?: string;
  liquid: string;
  /** 0 to 1. */
  fill: number;
  faint?: boolean;
  /** What it is called for those who can't see it. */
  spoken?: string;
}

/** Glasses on the worktop, with what stands on them; one of them in turn. */
export function Glasses(props: {
  glasses: GlassOnTable[];
  turn?: number;
  height?: number;
  /** What belongs under each. */
  children?: ((index: number) => ReactNode) | undefined;
  /** What happens when one is touched. */
  onTouch?: ((index: number) => void) | undefined;
}) {
  const { glasses, turn, height = 172, children, onTouch } = props;
  const [box, { width }] = useSize<HTMLDivElement>();
  const each = Math.max(width, 320) / Math.max(glasses.length, 1);
  const w = Math.min(104, each * 0.62);
  const h = Math.min(height, w * 1.7);
  return (
    <Box ref={box} sx={{ position: "relative" }}>
      <Box
        aria-hidden
        sx={{
          position: "absolute",
          left: { xs: -16, md: -28 },
          right: { xs: -16, md: -28 },
          height: 56,
          bgcolor: colour("worktop"),
          borderTop: `2px solid ${colour("ink")}`,
        }}
        style={{ top: h + 12 }}
      />
      <Box
        sx={{ position: "relative", display: "grid", alignItems: "start" }}
        style={{ gridTemplateColumns: `repeat(${glasses.length}, minmax(0, 1fr))` }}
      >
        {glasses.map((glass, index) => (
          <Box
            key={glass.key}
            data-glass={glass.key}
            {...(onTouch && {
              component: "button",
              type: "button",
              "aria-label": glass.spoken ?? glass.label,
              "aria-pressed": index === turn,
              onClick: () => onTouch(index),
            })}
            sx={{
              ...(onTouch && {
                font: "inherit",
                color: "inherit",
                p: 0,
                border: 0,
                bgcolor: "transparent",
                cursor: "pointer",
              }),
              minWidth: 0,
              textAlign: "center",
              borderRadius: "18px",
              outline: index === turn ? `2.5px solid ${colour("cobalt")}` : "none",
              outlineOffset: -3,
              pb: 1,
            }}
          >
            <Box sx={{ opacity: glass.faint ? 0.4 : 1 }}>
              <svg
                width={w + 10}
                height={h + 12}
                aria-hidden
                style={{ display: "block", margin: "0 auto" }}
              >
                <g transform={`translate(${(w + 10) / 2} ${h + 12})`}>
                  <VesselDrawing
                    kind="glass"
                    width={w}
                    height={h}
                    fill={glass.fill}
                    liquid={glass.liquid}
                  />
                </g>
              </svg>
            </Box>
            <Box
              sx={{
                ...displayFont,
                height: 56,
                display: "grid",
                alignContent: "center",
                fontWeight: 700,
                fontSize: { xs: 19, sm: 26 },
                lineHeight: 1.05,
                color: colour(glass.faint ? "muted" : "ink"),
              }}
            >
              {glass.label}
              {glass.under && (
                <Box
                  sx={{
                    fontFamily: "inherit",
                    fontSize: { xs: 11.5, sm: 13 },
                    fontWeight: 500,
                    color: colour("ink"),
                  }}
                >
                  {glass.under}
                </Box>
              )}
            </Box>
            {children?.(index)}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** Jugs on the worktop, with what is in them. */
export function Jugs(props: {
  jugs: { name: string; liquid: string; fill: number; over?: string | undefined }[];
  glass?: { liquid: string; fill: number; name: string };
}) {
  const { jugs, glass } = props;
  const w = 54;
  const h = 92;
  const all = [
    ...jugs.map((jug) => ({ ...jug, kind: "jug" as const })),
    ...(glass ? [{ ...glass, kind: "glass" as const, over: undefined }] : []),
  ];
  return (
    <Box sx={{ position: "relative" }}>
      <Box
        aria-hidden
        sx={{
          position: "absolute",
          left: { xs: -16, md: -28 },
          right: { xs: -16, md: -28 },
          bottom: 0,
          height: 44,
          bgcolor: colour("worktop"),
          borderTop: `2px solid ${colour("ink")}`,
        }}
      />
      <Box
        sx={{
          position: "relative",
          display: "flex",
          justifyContent: { xs: "space-between", sm: "flex-start" },
          gap: { xs: 0, sm: 4 },
          alignItems: "flex-end",
        }}
      >
        {all.map((one) => (
          <Box
            key={one.name}
            sx={{ textAlign: "center", flex: { xs: 1, sm: "0 0 auto" }, minWidth: 0, px: 0.5 }}
          >
            <Box
              sx={{
                ...displayFont,
                minHeight: 50,
                display: "grid",
                alignItems: "end",
                fontSize: { xs: 18, sm: 22 },
                fontWeight: 700,
                color: colour("cobalt"),
                lineHeight: 1.15,
                mb: 0.5,
              }}
            >
              {one.over}
            </Box>
            <svg
              width={w + 30}
              height={h + 4}
              aria-hidden
              style={{ display: "block", margin: "0 auto" }}
            >
              <g transform={`translate(${w / 2 + 15 - (one.kind === "jug" ? 9 : 0)} ${h + 3})`}>
                <VesselDrawing
                  kind={one.kind}
                  width={w}
                  height={one.kind === "glass" ? h - 6 : h}
                  fill={one.fill}
                  liquid={one.liquid}
                />
              </g>
            </svg>
            <Box
              sx={{
                height: 44,
                display: "grid",
                placeItems: "center",
                fontWeight: 600,
                fontSize: 14,
              }}
            >
              {one.name}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** Where an ideal lies and how sure that is: a band that narrows. */
export function Belief(props: {
  low: number;
  high: number;
  middle: number;
  ends: readonly [string, string];
  /** The figures at either end of the line. */
  from: number;
  to: number;
}) {
  const { low, high, middle, ends, from, to } = props;
  const place = (value: number) =>
    Math.min(Math.max((Math.log(value) - Math.log(from)) / (Math.log(to) - Math.log(from)), 0), 1) *
    100;
  return (
    <Box sx={{ maxWidth: 520 }} data-testid="belief">
      <Box
        sx={{
          display: "flex",
          justifyContent: "space-between",
          color: colour("muted"),
          fontSize: 13.5,
        }}
      >
        <span>{ends[0]}</span>
        <span>{ends[1]}</span>
      </Box>
      <Box sx={{ position: "relative", height: 26, mt: 0.25 }}>
        <Box
          sx={{
            position: "absolute",
            inset: "9px 0",
            borderRadius: 4,
            bgcolor: colour("track"),
          }}
        />
        <Box
          className="kp-level"
          sx={{
            position: "absolute",
            top: 9,
            bottom: 9,
            borderRadius: 4,
            bgcolor: colour("cobalt"),
            opacity: 0.5,
          }}
          style={{ left: `${place(low)}%`, width: `${Math.max(place(high) - place(low), 1)}%` }}
        />
        <Box
          sx={{
            position: "absolute",
            top: 3,
            width: 20,
            height: 20,
            ml: "-10px",
            borderRadius: "50%",
            bgcolor: colour("enamel"),
            border: `3px solid ${colour("cobalt")}`,
          }}
          style={{ left: `${place(middle)}%` }}
        />
      </Box>
    </Box>
  );
}
