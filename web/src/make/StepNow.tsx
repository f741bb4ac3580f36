import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { BatchView, InstrumentView } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { span, weight } from "../ui/format";
import { amountOf } from "./amount";
import { momentOf, until } from "./clock";
import { useMoment } from "./hooks";
import type { Hurry as Hurrying } from "./useBatch";
import { Weighing } from "./Weighing";

/** Letters that are read from two metres. */
export const big = {
  ...displayFont,
  fontSize: { xs: 30, md: 40 },
  fontWeight: 700,
  lineHeight: 1.12,
  letterSpacing: "-0.02em",
  m: 0,
  maxWidth: 900,
  overflowWrap: "anywhere",
} as const;

interface StepProps {
  view: BatchView;
  /** When that was heard. */
  heardAt: number;
  place: number;
  scale: InstrumentView | undefined;
  /** Whether something is being said: a second tap says nothing more. */
  busy: boolean;
  hurry: Hurrying;
  onDone: () => void;
  onFinish: () => void;
  onJuice: (step: string) => void;
}

/** A time of the batch that is to come, with its day where that isn't today. */
function Then({
  view,
  heardAt,
  minutes,
}: Pick<StepProps, "view" | "heardAt"> & { minutes: number }) {
  return until(momentOf(view.begun_at, minutes), useMoment(view, heardAt));
}

/** The step that needs hands now. */
export function StepNow(props: StepProps) {
  const { view, heardAt, place, scale, busy, hurry, onDone, onFinish, onJuice } = props;
  const { stands } = view;
  const step = stands.steps[place];
  if (!step) {
    const waits = stands.steps.some((s) => s.state === "running");
    // What could be done and would only stand until it is needed.
    const held = stands.steps
      .filter((s) => s.ready && s.not_before != null)
      .sort((a, b) => a.not_before! - b.not_before!)[0];
    const then = held && stands.report.frames.find((f) => f.step === held.id);
    return (
      <>
        <Box component="h2" data-step="" sx={big}>
          {waits ? "Nothing to do for now." : "All steps are done."}
        </Box>
        {then && (
          <Box sx={{ fontSize: 18, mt: 1 }}>
            <Box component="span" sx={{ color: colour("muted"), mr: 1 }}>
              next, <Then view={view} heardAt={heardAt} minutes={held!.not_before!} />:
            </Box>
            {then.sentence}
          </Box>
        )}
        <Juice view={view} onJuice={onJuice} />
        {waits && view.practice && <Hurry view={view} hurry={hurry} />}
        {!waits && (
          <Button
            variant="contained"
            onClick={onFinish}
            sx={{ minHeight: 64, px: 5, fontSize: 20, mt: 2 }}
          >
            Finish
          </Button>
        )}
      </>
    );
  }
  const frame = stands.report.frames.find((f) => f.step === step.id)!;
  const line = stands.report.lines.find((l) => l.step === step.id);
  const amount = amountOf(view, step.id);
  const cautions = [
    ...frame.cautions.map((c) => c.message),
    ...frame.notices.map((n) => n.message),
  ];
  const after = stands.steps.slice(place + 1).find((s) => s.state === "ahead");
  const next = after && stands.report.frames.find((f) => f.step === after.id);
  const begins = step.waits >= 1;
  const said = [line && weight(line.grams), line?.also].filter((text) => text && text !== amount);
  const also = [...new Set(said)];
  const weighs = scale && step.weigh_g != null ? step.weigh_g : undefined;
  return (
    <>
      <Box
        component="h2"
        data-step={step.id}
        // Where there is no amount to be read, the sentence has its room.
        sx={amount ? big : { ...big, fontSize: { xs: 36, md: 58 }, lineHeight: 1.06 }}
      >
        {frame.sentence}
      </Box>
      {weighs !== undefined ? (
        <Weighing scale={scale!} wanted={weighs} written={amount ?? ""} practice={view.practice} />
      ) : (
        amount && (
          <Box
            sx={{
              ...displayFont,
              fontSize: { xs: 64, md: 92 },
              fontWeight: 800,
              lineHeight: 1.05,
              letterSpacing: "-0.03em",
              color: colour("cobalt"),
              my: 1,
            }}
          >
            {amount}
          </Box>
        )
      )}
      <Box sx={{ fontSize: 19, color: colour("muted"), minHeight: 28 }}>
        {weighs === undefined && also.join(" · ")}
        {begins &&
          `${weighs === undefined && also.length > 0 ? "; " : ""}then ${span(step.waits)} unattended`}
      </Box>
      {cautions.length > 0 && (
        <Box sx={{ fontSize: 15.5, mt: 1, maxWidth: 720 }}>
          {frame.cautions.some((c) => c.adult) && <strong>For an adult. </strong>}
          {cautions.slice(0, 2).join(" ")}
        </Box>
      )}
      <Juice view={view} onJuice={onJuice} />
      <Box sx={{ mt: 2.5 }}>
        <Button
          variant="contained"
          onClick={onDone}
          disabled={busy}
          sx={{ minHeight: 68, minWidth: 190, width: { xs: "100%", sm: "auto" }, fontSize: 22 }}
        >
          {begins ? "Started" : "Done"}
        </Button>
      </Box>
      {view.practice && stands.steps.some((s) => s.state === "running") && (
        <Hurry view={view} hurry={hurry} />
      )}
      {next && (
        <Box sx={{ mt: 1.5, fontSize: 16 }}>
          <Box component="span" sx={{ color: colour("muted"), mr: 1 }}>
            then
          </Box>
          {next.sentence}
        </Box>
      )}
    </>
  );
}

/** Fruit was squeezed, and nobody has said what it gave: that is worth a look at the jug. */
function Juice({ view, onJuice }: { view: BatchView; onJuice: (step: string) => void }) {
  const { steps, drink } = view.stands;
  const last = steps.findLast((s) => s.state !== "ahead");
  const action = last && drink.steps.find((s) => s.id === last.id)?.do;
  const squeezed = action && "squeeze" in action ? last : undefined;
  const said =
    squeezed &&
    view.said.some(
      ({ what }, i) =>
        "came_out" in what && what.came_out.step === squeezed.id && !view.taken_back.includes(i),
    );
  if (!squeezed || said) return null;
  return (
    <Box sx={{ mt: 1 }}>
      <Button variant="outlined" onClick={() => onJuice(squeezed.id)} sx={{ minHeight: 48 }}>
        How much juice did you get?
      </Button>
    </Box>
  );
}

/** In the practice kitchen nobody waits for an hour. */
function Hurry({ view, hurry }: { view: BatchView; hurry: Hurrying }) {
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1.5 }}>
      <Button variant="outlined" onClick={() => void hurry({ do: "to_next" })}>
        Skip this wait
      </Button>
      <Button
        onClick={() => void hurry({ do: "rate", times: view.rate > 1 ? 1 : 60 })}
        aria-pressed={view.rate > 1}
      >
        {view.rate > 1 ? "Clock as usual" : "Clock 60 times as fast"}
      </Button>
    </Box>
  );
}
