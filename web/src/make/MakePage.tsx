import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useColorScheme } from "@mui/material/styles";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import type { BatchView } from "../api/client";
import { useChanges } from "../api/changes";
import { useSettings } from "../api/queries";
import { colour, displayFont } from "../app/theme";
import { MapPlate } from "../drink/balance/MapPlate";
import { span, volume, weight } from "../ui/format";
import { Note } from "../ui/Note";
import { Trouble } from "../ui/Trouble";
import { amountOf } from "./amount";
import { Asking, type Asked } from "./Asking";
import { Happened } from "./Happened";
import { Progress } from "./Progress";
import { useBatch, type Say } from "./useBatch";
import { useBell } from "./useBell";
import { Waits } from "./Waits";

/** At the stove: one step at a time, in letters that are read from two metres. */
export default function MakePage() {
  const { id = "" } = useParams();
  const { settings } = useSettings();
  const { setMode } = useColorScheme();
  const theme = settings.theme ?? "system";
  useEffect(() => setMode(theme), [theme, setMode]);
  useChanges();
  useAwake();
  const batch = useBatch(id);
  if (batch.error || !batch.view) {
    return (
      <Box component="main" sx={{ p: { xs: 2, md: 3.5 } }}>
        <h1>Making</h1>
        <Trouble error={batch.error} again={batch.again} />
        <Link to="/">Back to the shelf</Link>
      </Box>
    );
  }
  return <Open batch={batch} view={batch.view} />;
}

function Open({ batch, view }: { batch: ReturnType<typeof useBatch>; view: BatchView }) {
  const { stands } = view;
  const now = useNow();
  const [asked, setAsked] = useState<Asked | undefined>();
  const [log, setLog] = useState(false);
  const finished = view.finished_at != null;
  const place = stands.steps.findIndex((s) => s.id === stands.next);
  const done = stands.steps.filter((s) => s.state === "done").length;
  const over = useBell(view, now);
  useEffect(() => {
    document.title = over > 0 ? `(${over}) ${view.name}` : `${view.name} · Making`;
    return () => void (document.title = "Keen Pitcher");
  }, [over, view.name]);
  const takeBack = () => {
    const last = view.said.findLastIndex(
      (s, i) => !("taken_back" in s.what) && !view.taken_back.includes(i),
    );
    if (last >= 0) void batch.say({ taken_back: { of: last } });
  };
  useKeys(batch.say, view, takeBack, asked === undefined);
  const { point } = stands.report.map;

  return (
    <Box
      component="main"
      sx={{ minHeight: "100dvh", display: "flex", flexDirection: "column", minWidth: 0 }}
    >
      <Box sx={{ px: { xs: 2, md: 3.5 }, pt: 1, display: "grid", gap: 1 }}>
        <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", columnGap: 2.5 }}>
          <Box component="h1" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0 }}>
            {view.name}
          </Box>
          <Box sx={{ color: colour("muted") }}>
            {finished
              ? "finished"
              : `step ${Math.min(done + 1, stands.steps.length)} of ${stands.steps.length}`}
          </Box>
          <Box sx={{ flex: 1 }} />
          <Box sx={{ color: colour("muted") }}>
            {new Date(now).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}
          </Box>
          <Button component={Link} to={`/drinks/${view.drink}/make`}>
            Leave
          </Button>
        </Box>
        <Waits view={view} now={now} say={batch.say} />
      </Box>
      {batch.wrong && <Note kind="notice">{batch.wrong}</Note>}
      {batch.doubt && (
        <Note
          kind="notice"
          action={
            <Box>
              <Button onClick={() => void batch.say(batch.doubt!.what, true)}>Believe it</Button>
              <Button onClick={batch.leaveOut}>Leave it out</Button>
            </Box>
          }
        >
          {batch.doubt.question}
        </Note>
      )}
      <Box
        sx={{
          flex: 1,
          px: { xs: 2, md: 3.5 },
          py: { xs: 1.5, md: 2 },
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 340px" },
          gap: { xs: 2.5, md: 5 },
          alignContent: "start",
        }}
      >
        <Box sx={{ minWidth: 0 }}>
          {finished ? (
            <Ended view={view} />
          ) : (
            <Step view={view} place={place} say={batch.say} onFinish={() => setAsked("finish")} />
          )}
          <Box
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(5, max-content)" },
              gap: 1.25,
              mt: 1.5,
            }}
          >
            {!finished &&
              (
                [
                  ["otherwise", "It came out otherwise"],
                  ["measure", "Measure"],
                  ["taste", "Taste"],
                  ["note", "Note"],
                ] as const
              ).map(([key, name]) => (
                <Button
                  key={key}
                  variant="outlined"
                  onClick={() => setAsked(key)}
                  sx={{ minHeight: 52, fontSize: 16 }}
                >
                  {name}
                </Button>
              ))}
            <Button onClick={() => setLog(!log)} aria-expanded={log} sx={{ minHeight: 52 }}>
              {log ? "Put the list away" : "What happened"}
            </Button>
          </Box>
          {log && <Happened view={view} say={batch.say} />}
        </Box>
        <Box component="section" aria-label="Where it will end">
          <MapPlate
            map={stands.report.map}
            colour={stands.report.profile?.colour}
            name={view.name}
            ring={stands.written ?? undefined}
            cloud={
              point
                ? {
                    middle: { sweetness: point.sweetness, acidity: point.acidity },
                    long: { sweetness: stands.doubt.sweetness, acidity: 0 },
                    short: { sweetness: 0, acidity: stands.doubt.acidity },
                    half: 1.177,
                    most: 2.146,
                  }
                : null
            }
          />
          <Box sx={{ fontSize: 14.5, mt: 1 }}>
            {stands.readings.length > 0 && <strong>{lastReading(view)} </strong>}
            <Box component="span" sx={{ color: colour("muted") }}>
              {finished
                ? "The ring is where it was to be."
                : (stands.measure?.message ?? "Nothing is worth measuring now.")}
            </Box>
          </Box>
        </Box>
      </Box>
      <Progress view={view} />
      {asked && (
        <Asking
          asked={asked}
          view={view}
          place={place}
          say={batch.say}
          onClose={() => setAsked(undefined)}
        />
      )}
    </Box>
  );
}

function lastReading(view: BatchView): string {
  const reading = view.stands.readings.at(-1)!;
  const places = Math.abs(reading.value) < 20 ? 1 : 0;
  return `Read ${reading.value.toFixed(places)} ${reading.unit}; ${reading.expected.toFixed(places)} was expected, give or take ${reading.give_or_take.toFixed(places)}.`;
}

interface StepProps {
  view: BatchView;
  place: number;
  say: Say;
  onFinish: () => void;
}

/** The step that needs hands now. */
function Step({ view, place, say, onFinish }: StepProps) {
  const { stands } = view;
  const step = stands.steps[place];
  if (!step) {
    const waits = stands.steps.some((s) => s.state === "running");
    return (
      <>
        <Box component="h2" sx={big}>
          {waits ? "Nothing to do but wait." : "All is done."}
        </Box>
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
  return (
    <>
      <Box component="h2" sx={big}>
        {frame.sentence}
      </Box>
      {amount && (
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
      )}
      <Box sx={{ fontSize: 17, color: colour("muted"), minHeight: 26 }}>
        {also.join(" · ")}
        {begins && `${also.length > 0 ? "; " : ""}then it takes ${span(step.waits)} by itself`}
      </Box>
      {cautions.length > 0 && (
        <Box sx={{ fontSize: 15.5, mt: 1, maxWidth: 720 }}>{cautions.slice(0, 2).join(" ")}</Box>
      )}
      <Box sx={{ mt: 2.5 }}>
        <Button
          variant="contained"
          onClick={() =>
            void say(begins ? { began: { step: step.id } } : { done: { step: step.id } })
          }
          sx={{ minHeight: 68, minWidth: 190, width: { xs: "100%", sm: "auto" }, fontSize: 22 }}
        >
          {begins ? "It has begun" : "Done"}
        </Button>
      </Box>
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

const big = {
  ...displayFont,
  fontSize: { xs: 30, md: 40 },
  fontWeight: 700,
  lineHeight: 1.12,
  letterSpacing: "-0.02em",
  m: 0,
  maxWidth: 900,
  overflowWrap: "anywhere",
} as const;

/** A batch that is finished: what was written, and what came of it. */
function Ended({ view }: { view: BatchView }) {
  const { stands } = view;
  const profile = stands.report.profile;
  const point = stands.report.map.point;
  const rows = [
    [
      "sweetness",
      stands.written && `${stands.written.sweetness.toFixed(1)} g in 100 g`,
      point && `${point.sweetness.toFixed(1)} ± ${stands.doubt.sweetness.toFixed(1)}`,
    ],
    [
      "acidity",
      stands.written && `${stands.written.acidity.toFixed(2)} %`,
      point && `${point.acidity.toFixed(2)} ± ${stands.doubt.acidity.toFixed(2)}`,
    ],
    ["there is", "", profile && volume(profile.volume_ml)],
  ];
  return (
    <>
      <Box component="h2" sx={big}>
        It is made.
      </Box>
      <Box component="table" sx={{ mt: 2, fontSize: 17, borderCollapse: "collapse" }}>
        <thead>
          <tr>
            {["figure", "written", "made"].map((head) => (
              <Box
                component="th"
                key={head}
                sx={{ textAlign: "left", pr: 4, pb: 0.5, color: colour("muted"), fontSize: 14 }}
              >
                {head}
              </Box>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([what, written, made]) => (
            <tr key={what}>
              <Box component="th" sx={{ textAlign: "left", pr: 4, py: 0.5, fontWeight: 500 }}>
                {what}
              </Box>
              <Box component="td" sx={{ pr: 4 }}>
                {written}
              </Box>
              <Box component="td" sx={{ fontWeight: 700 }}>
                {made}
              </Box>
            </tr>
          ))}
        </tbody>
      </Box>
    </>
  );
}

/** The time, each second. */
function useNow(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/** The screen stays awake where the browser allows it. */
function useAwake() {
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

/** Space and Enter say done, Backspace takes the last thing back. */
function useKeys(say: Say, view: BatchView, takeBack: () => void, active: boolean) {
  useEffect(() => {
    if (!active || view.finished_at != null) return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (target.closest?.("input, textarea, button, a, [role=dialog]")) return;
      const step = view.stands.steps.find((s) => s.id === view.stands.next);
      if ((event.key === " " || event.key === "Enter") && step) {
        event.preventDefault();
        void say(step.waits >= 1 ? { began: { step: step.id } } : { done: { step: step.id } });
      }
      if (event.key === "Backspace") {
        event.preventDefault();
        takeBack();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}
