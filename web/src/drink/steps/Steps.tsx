import Box from "@mui/material/Box";
import useMediaQuery from "@mui/material/useMediaQuery";
import { Fragment, memo, useState } from "react";
import type { Drink, DrinkReport, StateReport, Step } from "../../api/client";
import { colour, displayFont } from "../../app/theme";
import { span, volume } from "../../ui/format";
import type { Editor } from "../editor";
import { laneOf, pathOf } from "./actions";
import { AddStep } from "./AddStep";
import { StepPanel } from "./StepPanel";
import look from "./Steps.module.css";

interface StepsProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
}

/** The making as lanes, a lane for each vessel, joined where they pour together. */
export const Steps = memo(function Steps({ editor, drink, report }: StepsProps) {
  const [chosen, setChosen] = useState<string | undefined>();
  const small = useMediaQuery("(max-width: 899px)");
  const step = drink.steps.find((s) => s.id === chosen);
  const panel = step && (
    <StepPanel
      key={step.id}
      editor={editor}
      drink={drink}
      report={report}
      step={step}
      onClose={() => setChosen(undefined)}
    />
  );
  return (
    <Box
      sx={{
        flex: 1,
        display: "grid",
        gridTemplateColumns: {
          xs: "minmax(0, 1fr)",
          md: step ? "minmax(0, 1fr) 330px" : "minmax(0, 1fr)",
        },
        gap: 3,
        px: { xs: 2, md: 3.5 },
        pb: 3,
        minWidth: 0,
        alignItems: "start",
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        {small ? (
          <List drink={drink} report={report} chosen={chosen} onChoose={setChosen} panel={panel} />
        ) : (
          <Lanes drink={drink} report={report} chosen={chosen} onChoose={setChosen} />
        )}
        <AddStep editor={editor} drink={drink} report={report} after={chosen} onAdded={setChosen} />
      </Box>
      {!small && panel}
    </Box>
  );
});

interface ViewProps {
  drink: Drink;
  report: DrinkReport;
  chosen: string | undefined;
  onChoose: (step: string | undefined) => void;
}

/** What each vessel holds after each step. */
function statesAfter(report: DrinkReport): Map<string, StateReport>[] {
  let now = new Map<string, StateReport>();
  return report.frames.map((frame) => {
    now = new Map(now);
    for (const state of frame.states) now.set(state.vessel, state);
    return now;
  });
}

function Lanes({ drink, report, chosen, onChoose }: ViewProps) {
  const lanes = report.vessels;
  const states = statesAfter(report);
  const column = new Map(lanes.map((v, i) => [v.id, i + 1]));
  return (
    <Box sx={{ overflowX: "auto" }}>
      <div
        className={look.lanes}
        style={{ gridTemplateColumns: `repeat(${lanes.length}, minmax(132px, 1fr))` }}
      >
        {lanes.map((v) => (
          <div
            key={v.id}
            className={look.head}
            style={{ gridRow: 1, gridColumn: column.get(v.id) }}
          >
            <Box sx={{ ...displayFont, fontWeight: 700, fontSize: 16 }}>{v.name}</Box>
            <Box sx={{ fontSize: 12.5, color: colour("muted") }}>
              {v.strains ? "strainer" : volume(v.capacity_ml)}
            </Box>
          </div>
        ))}
        {drink.steps.map((step, i) => {
          const columns = pathOf(step.do)
            .map((id) => column.get(id))
            .filter((c) => c !== undefined);
          const first = Math.min(...columns, lanes.length);
          const last = Math.max(...columns, 1);
          return (
            <Fragment key={step.id}>
              {lanes.map((v) => {
                const state = states[i]?.get(v.id);
                // A film that clings to an emptied vessel is no level.
                const filled = state && state.liquid_ml > Math.max(20, v.capacity_ml * 0.02);
                return (
                  <div
                    key={v.id}
                    className={look.cell}
                    style={{ gridRow: i + 2, gridColumn: column.get(v.id) }}
                  >
                    <span
                      className={look.pipe}
                      style={{ background: filled ? state.colour : "transparent" }}
                    />
                  </div>
                );
              })}
              <Card
                step={step}
                number={i + 1}
                report={report}
                chosen={chosen === step.id}
                onChoose={onChoose}
                place={{ gridRow: i + 2, gridColumn: `${first} / ${last + 1}` }}
                flows={columns.length > 1}
              />
            </Fragment>
          );
        })}
      </div>
    </Box>
  );
}

/** On a narrow screen: the steps under one another, the chosen one opened in its place. */
function List({ drink, report, chosen, onChoose, panel }: ViewProps & { panel: React.ReactNode }) {
  return (
    <Box sx={{ display: "grid" }}>
      {drink.steps.map((step, i) => (
        <Fragment key={step.id}>
          <Card
            step={step}
            number={i + 1}
            report={report}
            chosen={chosen === step.id}
            onChoose={onChoose}
            place={{}}
            flows={pathOf(step.do).length > 1}
          />
          {chosen === step.id && panel}
        </Fragment>
      ))}
    </Box>
  );
}

interface CardProps {
  step: Step;
  number: number;
  report: DrinkReport;
  chosen: boolean;
  onChoose: (step: string | undefined) => void;
  place: React.CSSProperties;
  flows: boolean;
}

function Card({ step, number, report, chosen, onChoose, place, flows }: CardProps) {
  const frame = report.frames.find((f) => f.step === step.id);
  const state = frame?.states.find((s) => s.vessel === laneOf(step.do));
  const stop = frame?.notices.find((n) => n.severity === "stop");
  const classes = [look.card, chosen && look.chosen, flows && look.flows, stop && look.stop];
  const facts = state &&
    frame && [
      volume(state.level_ml),
      state.brix >= 0.05 && `${state.brix.toFixed(1)} °Bx`,
      state.acidity_percent >= 0.005 && `${state.acidity_percent.toFixed(2)} % acid`,
      `${state.temperature_c.toFixed(0)} °C`,
      frame.minutes >= 3 && span(frame.minutes),
    ];
  return (
    <button
      type="button"
      className={classes.filter(Boolean).join(" ")}
      style={{ ...place, "--kp-stream": state?.colour } as React.CSSProperties}
      aria-pressed={chosen}
      data-step={step.id}
      onClick={() => onChoose(chosen ? undefined : step.id)}
    >
      <span className={look.number}>{number}</span>
      {frame?.sentence}
      {facts && <span className={look.state}>{facts.filter(Boolean).join(" · ")}</span>}
      {stop && <span className={look.warn}>{stop.message}</span>}
    </button>
  );
}
