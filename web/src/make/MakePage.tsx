import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useColorScheme } from "@mui/material/styles";
import useMediaQuery from "@mui/material/useMediaQuery";
import { Bell, BellOff, Volume2 } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import type { BatchView, Happening, Spot } from "../api/client";
import { useChanges } from "../api/changes";
import { useSettings } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { MapPlate } from "../drink/balance/MapPlate";
import { useDrinkers } from "../drink/balance/useDrinkers";
import { span, weight } from "../ui/format";
import { Note } from "../ui/Note";
import { Trouble } from "../ui/Trouble";
import type { Asked } from "./asked";
import { Asking } from "./Asking";
import { momentOf, until } from "./clock";
import { Ended } from "./Ended";
import { Going, type Opened, type Waiting, useWaits } from "./Going";
import { Happened } from "./Happened";
import { canSpeak, readAloud, useAwake, useKeys, useMoment, useSwipe } from "./hooks";
import { late } from "./ready";
import { StepNow } from "./StepNow";
import { StepVessels } from "./StepVessels";
import { useBatch } from "./useBatch";
import { useBell, useBellChoice } from "./useBell";
import { tell, useInstruments } from "./useInstruments";
import { Unloaded } from "../ui/Unloaded";
import { useWays, Ways } from "./Ways";
import { places } from "./words";

/** At the stove: one step at a time, in letters that are read from two metres. */
export default function MakePage() {
  const { id = "" } = useParams();
  const { settings } = useSettings();
  const { setMode } = useColorScheme();
  const theme = settings.theme ?? "system";
  useEffect(() => {
    setMode(theme);
  }, [theme, setMode]);
  useChanges();
  useAwake();
  const batch = useBatch(id);
  // What was known of it stays on the screen when asking again fails.
  if (!batch.view) {
    return (
      <Box component="main" sx={{ p: { xs: 2, md: 3.5 } }}>
        <h1>Making</h1>
        <Trouble error={batch.error} again={batch.again} />
        <Link className="kp-finger" to="/">
          Back to your drinks
        </Link>
      </Box>
    );
  }
  return <Open key={id} batch={batch} view={batch.view} />;
}

function Open({ batch, view }: { batch: ReturnType<typeof useBatch>; view: BatchView }) {
  const drinkers = useDrinkers(view.stands.drink.family);
  const { stands } = view;
  const { say } = batch;
  const phone = useMediaQuery("(max-width: 600px)");
  const [asked, setAsked] = useState<{ what: Asked; about?: string } | undefined>();
  const [log, setLog] = useState(false);
  const [busy, setBusy] = useState(false);
  const [odd, setOdd] = useState<number | undefined>();
  const finished = view.finished_at != null;
  const place = stands.steps.findIndex((s) => s.id === stands.next);
  const step = stands.steps[place];
  const done = stands.steps.filter((s) => s.state === "done").length;
  const opened = { view, heardAt: batch.heardAt };
  const scale = useInstruments(view.practice, !finished).find(
    (one) => one.kind === "scale" && one.condition === "here",
  );
  const ways = useWays(view, [], !finished && stands.otherwise != null).ways;

  /** Done: with what was really poured, where a scale has weighed it. */
  const onDone = async (kept?: Kept) => {
    if (!step || busy) return;
    setBusy(true);
    await sayDone(step, kept).finally(() => setBusy(false));
  };
  const sayDone = async (step: BatchView["stands"]["steps"][number], kept?: Kept) => {
    const weighed = scale?.value;
    if (scale && step.weigh_g != null && weighed != null && weighed >= 1 && kept !== "written") {
      // A pot that nobody tared away, or a scale that somebody else uses, is no amount.
      if (kept !== "weighed" && isOdd(weighed, step.weigh_g)) return setOdd(weighed);
      if (Math.abs(weighed - step.weigh_g) >= 0.5) {
        const heard = await say({ used: { step: step.id, amount: `${weighed} g` } });
        if (!heard) return;
      }
      tell(scale, { do: "tare" });
    }
    setOdd(undefined);
    const what: Happening =
      step.waits >= 1 ? { began: { step: step.id } } : { done: { step: step.id } };
    await say(what);
  };
  useKeys({ view, onDone: () => void onDone(), say, active: asked === undefined });
  const swipe = useSwipe(() => void onDone());
  const { point } = stands.report.map;
  const frame = step && stands.report.frames.find((f) => f.step === step.id);

  return (
    <Box
      component="main"
      sx={{ minHeight: "100dvh", display: "flex", flexDirection: "column", minWidth: 0 }}
    >
      <Unloaded />
      <Ringing {...opened} />
      <Box
        sx={{
          px: { xs: 2, md: 3.5 },
          pt: 1,
          display: "grid",
          gridTemplateColumns: "minmax(0, 1fr)",
          gap: 1,
        }}
      >
        <Box
          sx={{
            display: "flex",
            flexWrap: "wrap",
            alignItems: "center",
            columnGap: { xs: 1, sm: 2.5 },
          }}
        >
          <Box
            component="h1"
            sx={{
              ...displayFont,
              fontSize: 20,
              fontWeight: 700,
              m: 0,
              flex: { xs: "1 1 calc(100% - 100px)", sm: "0 1 auto" },
              minWidth: 0,
              pt: { xs: 0.5, sm: 0 },
            }}
          >
            {view.name}
          </Box>
          <Box sx={{ color: colour("muted"), whiteSpace: "nowrap", order: { xs: 2, sm: 0 } }}>
            {view.practice && "practice · "}
            {finished
              ? "finished"
              : `${Math.min(done + 1, stands.steps.length)} of ${stands.steps.length}`}
          </Box>
          <Box sx={{ flex: 1, order: { xs: 2, sm: 0 } }} />
          <Box sx={{ color: colour("muted"), display: { xs: "none", sm: "block" } }}>
            <Clock {...opened} />
          </Box>
          {!finished && <Ready {...opened} />}
          {!finished && frame && canSpeak() && (
            <Button
              aria-label="Read the step aloud"
              onClick={() => readAloud(frame.sentence)}
              sx={{ minWidth: 44, px: 1, order: { xs: 2, sm: 0 } }}
            >
              <Volume2 size={20} aria-hidden />
            </Button>
          )}
          {!finished && <BellButton />}
          <Button
            component={Link}
            to={`/drinks/${view.drink}/make`}
            sx={{ px: { xs: 1, sm: 2 }, order: { xs: 1, sm: 0 } }}
          >
            Leave
          </Button>
        </Box>
        <Going {...opened} say={say} />
      </Box>
      {batch.wrong && <Note kind="notice">{batch.wrong}</Note>}
      {batch.doubt && (
        <Note
          kind="notice"
          action={
            <Box>
              <Button onClick={() => void say(batch.doubt!.what, true)}>Keep it</Button>
              <Button onClick={batch.leaveOut}>Discard it</Button>
            </Box>
          }
        >
          {batch.doubt.question}
        </Note>
      )}
      {odd !== undefined && step?.weigh_g != null && (
        <Note
          kind="notice"
          action={
            <Box>
              <Button onClick={() => void onDone("weighed")}>{weight(odd)} added</Button>
              <Button onClick={() => void onDone("written")}>
                {weight(step.weigh_g)}, as written
              </Button>
              <Button onClick={() => setOdd(undefined)}>Not done yet</Button>
            </Box>
          }
        >
          The scale shows {weight(odd)}; the recipe says {weight(step.weigh_g)}. How much did you
          add?
        </Note>
      )}
      <Box
        sx={{
          flex: 1,
          px: { xs: 2, md: 3.5 },
          py: { xs: 1.5, md: 2 },
          display: "grid",
          gridTemplateColumns: {
            xs: "minmax(0, 1fr)",
            md: finished ? "minmax(0, 1fr) 380px" : "minmax(0, 1fr) 260px",
          },
          gap: { xs: 2.5, md: 5 },
          alignContent: "start",
        }}
      >
        <Box sx={{ minWidth: 0 }} {...swipe}>
          {finished ? (
            <Ended view={view} say={say} />
          ) : (
            <>
              <TimesUp {...opened} say={say} />
              <StepNow
                {...opened}
                place={place}
                scale={scale}
                busy={busy}
                hurry={batch.hurry}
                onDone={() => void onDone()}
                onFinish={() => setAsked({ what: "finish" })}
                onJuice={(about) => setAsked({ what: "otherwise", about })}
              />
            </>
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
                  ["otherwise", "Something went differently", "Changed"],
                  ["measure", "Measure", "Measure"],
                  ["taste", "Taste", "Taste"],
                  ["note", "Note", "Note"],
                ] as const
              ).map(([what, name, short]) => (
                <Button
                  key={what}
                  variant="outlined"
                  aria-label={name}
                  onClick={() => setAsked({ what })}
                  sx={{ minHeight: 52, fontSize: 16 }}
                >
                  {phone ? short : name}
                </Button>
              ))}
            <Button onClick={() => setLog(!log)} aria-expanded={log} sx={{ minHeight: 52 }}>
              {log ? "Close the list" : "Log"}
            </Button>
          </Box>
          {stands.otherwise && !finished && (
            <Box component="section" aria-label="Suggestions" sx={{ mt: 2, maxWidth: 780 }}>
              <Box role="status" sx={{ fontSize: 17, fontWeight: 600, mb: 1 }}>
                {stands.otherwise}
              </Box>
              {ways && <Ways ways={ways} say={say} />}
            </Box>
          )}
          {log && <Happened view={view} say={say} />}
        </Box>
        <Box sx={{ display: "grid", gap: 3, alignContent: "start", minWidth: 0 }}>
          {!finished && <StepVessels view={view} step={step?.id} />}
          <Box component="section" aria-label="Where it is heading">
            <Box sx={{ maxWidth: finished ? 420 : 220 }}>
              <MapPlate
                quiet={!finished}
                drinkers={finished ? drinkers : undefined}
                map={stands.report.map}
                colour={stands.report.profile?.colour}
                name={view.name}
                ring={stands.written ?? undefined}
                before={
                  point && stands.doubt_before ? cloudOf(point, stands.doubt_before) : undefined
                }
                cloud={point ? cloudOf(point, stands.doubt) : null}
              />
            </Box>
            <Box sx={{ fontSize: 14.5, mt: 1 }}>
              {stands.readings.length > 0 && <strong>{lastReading(view)} </strong>}
              <Box component="span" sx={{ color: colour("muted") }}>
                {finished
                  ? (stands.otherwise ?? "The ring marks the target.")
                  : stands.measure?.message}
              </Box>
            </Box>
          </Box>
        </Box>
      </Box>
      {asked && (
        <Asking
          asked={asked.what}
          about={asked.about}
          view={view}
          place={place}
          say={say}
          onClose={() => setAsked(undefined)}
        />
      )}
    </Box>
  );
}

/** What is kept of what a scale shows: that, or what was written. */
type Kept = "weighed" | "written";

/** So far off that one should ask before it is kept. */
const isOdd = (weighed: number, wanted: number) => Math.abs(weighed - wanted) > 0.25 * wanted;

/** How far it may be off, as a cloud round the point. */
function cloudOf(point: Spot, doubt: Spot) {
  return {
    middle: { sweetness: point.sweetness, acidity: point.acidity },
    long: { sweetness: doubt.sweetness, acidity: 0 },
    short: { sweetness: 0, acidity: doubt.acidity },
    half: 1.177,
    most: 2.146,
  };
}

const isOver = (wait: Waiting) => wait.to <= wait.at;

/** Rings, and says in the title, when a wait is over. Shows nothing. */
function Ringing(opened: Opened) {
  const over = useWaits(opened).filter(isOver);
  const { name } = opened.view;
  useBell(over.map((w) => ({ key: `${w.batch.id}/${w.step}`, sentence: w.sentence })));
  useEffect(() => {
    document.title = over.length > 0 ? `(${over.length}) ${name}` : `${name} · Making`;
    return () => void (document.title = "Keen Pitcher");
  }, [over.length, name]);
  return null;
}

/** What time it is. */
function Clock({ view, heardAt }: Opened) {
  const at = useMoment(view, heardAt);
  return until(at, at);
}

/** When it will be ready, and whether that is as planned. */
function Ready({ view, heardAt }: Opened) {
  const at = useMoment(view, heardAt);
  const ready = momentOf(view.begun_at, view.stands.ready_at);
  const passed = (at - momentOf(view.begun_at, view.now)) / 60_000;
  // While nobody does anything, it gets later; what waits by itself does not.
  const idle = view.stands.steps.some((s) => s.state === "running") ? 0 : passed;
  const expected = ready + idle * 60_000;
  return (
    <Box sx={{ whiteSpace: "nowrap", order: { xs: 2, sm: 0 } }}>
      ready <strong>{until(expected, at)}</strong>
      {view.serve_at != null && `, ${late(view.stands.ready_at + idle, view.serve_at)}`}
    </Box>
  );
}

/** A wait of this batch is over: large, with what to do, and for how long it has been over. */
function TimesUp({ say, ...opened }: Opened & { say: ReturnType<typeof useBatch>["say"] }) {
  const mine = useWaits(opened).filter((wait) => isOver(wait) && wait.batch.id === opened.view.id);
  return mine.map(({ step, sentence, to, at }) => (
    <Box
      key={step}
      role="alert"
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        gap: 2,
        mb: 2.5,
        p: { xs: 1.75, md: 2.25 },
        borderRadius: "14px",
        bgcolor: colour("notice"),
        color: colour("onNotice"),
      }}
    >
      <Box sx={{ flex: "1 1 260px", minWidth: 0 }}>
        <Box
          sx={{ ...displayFont, fontSize: { xs: 24, md: 30 }, fontWeight: 700, lineHeight: 1.15 }}
        >
          Time’s up: {lowerFirst(sentence.replace(/\.$/, ""))}
        </Box>
        {at - to >= 60_000 && (
          <Box sx={{ fontSize: 16 }}>over for {span(Math.floor((at - to) / 60_000))}</Box>
        )}
      </Box>
      <Button
        variant="contained"
        aria-label={`Mark as done: ${sentence}`}
        onClick={() => void say({ done: { step } })}
        sx={{ minHeight: 60, px: 4, fontSize: 20 }}
      >
        Done
      </Button>
    </Box>
  ));
}

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

function BellButton() {
  const { on, set } = useBellChoice();
  return (
    <Button
      aria-label={on ? "Sound is on: silence it" : "Sound is off: turn it on"}
      aria-pressed={on}
      onClick={() => set(!on)}
      sx={{ minWidth: 44, px: 1, order: { xs: 2, sm: 0 }, color: colour(on ? "cobalt" : "muted") }}
    >
      {on ? <Bell size={20} aria-hidden /> : <BellOff size={20} aria-hidden />}
    </Button>
  );
}

function lastReading(view: BatchView): string {
  const { quantity, unit, value, expected, give_or_take } = view.stands.readings.at(-1)!;
  const figure = (of: number) => of.toFixed(places(quantity, expected));
  return `You read ${figure(value)} ${unit}; we expected ${figure(expected)}, give or take ${figure(give_or_take)}.`;
}
