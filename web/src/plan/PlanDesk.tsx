import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import useMediaQuery from "@mui/material/useMediaQuery";
import { lazy, Suspense, useMemo, useState } from "react";
import { useQuestion } from "../api/ask";
import {
  answer as answerOf,
  api,
  asking,
  type Plan,
  type PlanAnswer,
  type PlanFile,
} from "../api/client";
import { Empty } from "../ui/Empty";
import { colour } from "../ui/theme";
import { span } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { Parts, Troubles } from "./Ahead";
import { Helps } from "./Helps";
import { useGoing } from "../make/Going";
import { Making } from "./Making";
import { Chosen } from "./Chosen";
import { AddDrinksDialog, DrinkDialog, HoursDialog, MeansDialog, ServingDialog } from "./Controls";
import { asItStood, meansOf, served } from "./changes";
import { Strip } from "./Strip";
import { date, hour, moved, weekday, type Clock } from "./times";
import type { Edit } from "./planEditor";
import { copyText } from "../ui/copyText";
import { keys } from "../api/keys";

const ForWhom = lazy(() => import("./ForWhom").then(({ ForWhom }) => ({ default: ForWhom })));
const PlanShopping = lazy(() => import("./PlanShopping"));

interface PlanDeskProps {
  /** The id of a plan that is kept; its calendar file has an address. */
  id?: string | undefined;
  plan: PlanFile;
  edit: Edit;
  /** Drinks are added and taken out here, or the plan is of one drink. */
  many?: boolean;
}

/** While it is made, what is yet to come moves with the clock. */
const A_MINUTE = 60_000;

type Open = "serving" | "means" | "hours" | "drinks" | { drink: string } | undefined;

/** A plan: when to begin, the strip of time, what doesn't fit, what would help, what can be made ahead. */
export function PlanDesk({ id, plan, edit: change, many = true }: PlanDeskProps) {
  const [open, setOpen] = useState<Open>();
  const [chosen, setChosen] = useState<string | undefined>();
  const [shopping, setShopping] = useState(false);
  const [said, setSaid] = useState("");
  const upright = useMediaQuery("(max-width: 700px)");
  const empty = (plan.drinks ?? []).length === 0;
  // The name, the note and who comes change no time.
  const asked = { ...plan, name: "", note: "", guests: [] };
  const { batches } = useGoing();
  const made = batches
    .filter((batch) => id !== undefined && batch.plan?.id === id)
    .map((batch) => [batch.id, batch.next, batch.waits.map((wait) => wait.step)]);
  const { data, error, again } = useQuestion(
    keys.planned(asked, made),
    (signal) =>
      answerOf(
        api.POST("/api/compute/plan", {
          body: { plan, help: true, id: id ?? null },
          headers: asking("plan"),
          signal,
        }),
      ),
    !empty,
    (known) => known?.plan?.under_way === true && A_MINUTE,
  );
  const edit: Edit = (to, gesture) =>
    change((before) => {
      const after = to(before);
      return after === before ? before : asItStood(after, data);
    }, gesture);
  const clock = useMemo<Clock | undefined>(
    () => data && { zero: Date.parse(data.zero), zone: data.zone },
    [data],
  );
  const close = () => setOpen(undefined);
  const means = meansOf(plan);
  const copy = async () => {
    const copied = await copyText(data?.list ?? "");
    setSaid(
      copied ? "Copied." : "This browser doesn't allow copying here. Select the text instead.",
    );
  };
  const here = clock && data;
  return (
    <Box sx={{ display: "grid", gap: 2, minWidth: 0, gridTemplateColumns: "minmax(0, 1fr)" }}>
      <Box className="no-print" sx={{ display: "flex", flexWrap: "wrap", columnGap: 2.5 }}>
        <Value onClick={() => setOpen("serving")}>
          {here
            ? `${date(clock, 0)}, serving at ${hour(clock, 0)}`
            : plan.serving.replace("T", ", ")}
        </Value>
        <Value onClick={() => setOpen("means")}>
          {means.cooks} {means.cooks === 1 ? "cook" : "cooks"}, {means.rings}{" "}
          {means.rings === 1 ? "burner" : "burners"}
        </Value>
        <Value onClick={() => setOpen("hours")}>
          {plan.night
            ? `night ${plan.night.from.slice(0, 5)} to ${plan.night.to.slice(0, 5)}`
            : "no night"}
          {(plan.spoken_for ?? []).length > 0 && ", busy times"}
        </Value>
        {many && <Value onClick={() => setOpen("drinks")}>add drinks</Value>}
      </Box>
      {empty && (
        <Empty
          action={
            <Button variant="contained" onClick={() => setOpen("drinks")}>
              Add drinks
            </Button>
          }
        >
          No drinks yet. Add the drinks you want ready together to see when to start.
        </Empty>
      )}
      {!empty && <Trouble error={error} again={again} />}
      {!empty && here && !data.plan && (
        <Troubles answer={data} plan={nothing} clock={clock} edit={edit} />
      )}
      {!empty && here && data.plan && (
        <>
          <Told plan={data.plan} answer={data} clock={clock} />
          <Troubles answer={data} plan={data.plan} clock={clock} edit={edit} />
          <Strip
            answer={data}
            plan={data.plan}
            clock={clock}
            upright={upright}
            chosen={chosen}
            onChoose={setChosen}
            onDrink={(drink) => setOpen({ drink })}
            onServing={(by) => edit((p) => served(p, moved(p.serving, by)), "serving")}
          />
          {chosen && (
            <Chosen
              answer={data}
              plan={data.plan}
              file={plan}
              clock={clock}
              task={chosen}
              edit={edit}
              onTask={setChosen}
              onClose={() => setChosen(undefined)}
            />
          )}
          <Box className="no-print" sx={{ display: "grid", gap: 2.5 }}>
            {id && (
              <Making
                id={id}
                answer={data}
                plan={data.plan}
                onLater={(by) => edit((p) => served(p, moved(p.serving, by)), "")}
              />
            )}
            <Helps plan={data.plan} file={plan} clock={clock} edit={edit} />
            {!data.plan.under_way && (
              <Parts answer={data} plan={data.plan} file={plan} edit={edit} />
            )}
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}>
              <Button
                variant="outlined"
                onClick={() => setShopping(!shopping)}
                aria-expanded={shopping}
              >
                {shopping ? "Close the shopping list" : "Shopping for this plan"}
              </Button>
              <Button variant="outlined" onClick={() => void copy()}>
                Copy as a list
              </Button>
              <Button variant="outlined" onClick={() => window.print()}>
                Print
              </Button>
              {id && (
                <Button
                  variant="outlined"
                  component="a"
                  href={`/api/plans/${id}/calendar`}
                  download="plan.ics"
                >
                  Calendar file
                </Button>
              )}
              <Box role="status" sx={{ color: colour("muted"), fontSize: 14 }}>
                {said}
              </Box>
            </Box>
            <Suspense>{id && <ForWhom drinks={data.drinks} plan={plan} edit={edit} />}</Suspense>
            <Suspense>{shopping && <PlanShopping id={id ?? "plan"} plan={plan} />}</Suspense>
          </Box>
          <OnPaper text={data.list} />
        </>
      )}
      {open === "serving" && <ServingDialog plan={plan} edit={edit} onClose={close} />}
      {open === "means" && <MeansDialog plan={plan} edit={edit} onClose={close} />}
      {open === "hours" && <HoursDialog plan={plan} edit={edit} onClose={close} />}
      {open === "drinks" && <AddDrinksDialog plan={plan} edit={edit} onClose={close} />}
      {typeof open === "object" && (
        <DrinkDialog plan={plan} edit={edit} onClose={close} entry={open.drink} answer={data} />
      )}
    </Box>
  );
}

const counted = ["", "one", "two", "three", "four", "five", "six"];

/** A plan of nothing, for when none of its drinks is there. */
const nothing = {
  troubles: [],
  begins: Infinity,
  later_by: null,
  under_way: false,
} as unknown as Plan;

/** What can be changed, as a word in the sentence. */
function Value({ onClick, children }: { onClick: () => void; children: React.ReactNode }) {
  return (
    <Box
      component="button"
      onClick={onClick}
      sx={{
        all: "unset",
        cursor: "pointer",
        minHeight: 44,
        display: "inline-flex",
        alignItems: "center",
        fontWeight: 600,
        color: colour("cobalt"),
        textDecoration: "underline",
        textUnderlineOffset: "5px",
        textDecorationThickness: "1.5px",
        "&:focus-visible": { outline: `2px solid ${colour("cobalt")}`, outlineOffset: 2 },
      }}
    >
      {children}
    </Box>
  );
}

/** When one begins, what it is, and where it can't be better, in two sentences. */
function Told({ plan, answer, clock }: { plan: Plan; answer: PlanAnswer; clock: Clock }) {
  const name = (position: number) => answer.drinks.find((d) => d.position === position)?.name ?? "";
  // The first thing that is done on each day.
  const days = plan.blocks.filter(
    (block, i) => i === 0 || date(clock, block.from) !== date(clock, plan.blocks[i - 1]!.from),
  );
  const begin = days.map((block, i) => {
    const at = hour(clock, i === 0 ? plan.begins : block.from);
    const onDay = `${weekday(clock, block.from)} at ${at}`;
    if (i > 0) return `then ${onDay}`;
    return days.length > 1 || date(clock, block.from) !== date(clock, 0)
      ? `Start on ${onDay}`
      : `Start at ${at}`;
  });
  const free = plan.free
    .filter((f) => date(clock, f.from) === date(clock, 0))
    .map((f) => `${hour(clock, f.from)} to ${hour(clock, f.to)}`);
  const over = Math.round(plan.bound - plan.begins);
  if (plan.under_way) {
    const next = plan.blocks.find((block) => block.from >= answer.now && !block.done);
    return (
      <Box data-told sx={{ fontSize: 16.5, lineHeight: 1.5 }}>
        {next ? (
          <>
            <strong>Next at {hour(clock, next.from)}</strong>: {next.label}, for {name(next.drink)}.
          </>
        ) : (
          <strong>Nothing left to do by hand.</strong>
        )}
      </Box>
    );
  }
  return (
    <Box data-told sx={{ fontSize: 16.5, lineHeight: 1.5 }}>
      <strong>{begin[0]}</strong> with {name(plan.blocks[0]?.drink ?? 0)}
      {begin.length > 1 && `, ${begin.slice(1).join(", ")}`}. {span(plan.work_minutes)} hands-on
      {plan.cooks.length > 1 && ` for ${counted[plan.cooks.length] ?? plan.cooks.length}`}
      {free.length > 0 && `; free from ${free.join(" and ")}`}.{" "}
      <Box component="span" sx={{ color: colour("muted") }}>
        {over >= 3
          ? `At best you could start ${span(over)} later.`
          : "This is the latest possible start."}
      </Box>
    </Box>
  );
}

/** The plan on paper. */
function OnPaper({ text }: { text: string }) {
  return (
    <Box
      component="pre"
      sx={{
        display: "none",
        whiteSpace: "pre-wrap",
        fontFamily: "inherit",
        fontSize: 14,
        "@media print": { display: "block" },
      }}
    >
      {text}
    </Box>
  );
}
