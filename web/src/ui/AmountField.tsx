import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { memo, useEffect, useRef, useState } from "react";
import { inWords } from "./amountWords";
import { readAs } from "./reading";
import type { Way } from "../api/client";
import { colour, displayFont } from "./theme";
import look from "./AmountField.module.css";

interface AmountFieldProps {
  /** What it is an amount of, for those who can't see the row. */
  of: string;
  /** Its id, so that what is typed is weighed. */
  ingredient?: string;
  way: Way;
  /** Follows a drag or a nudge; always something that can be made. A drag says which one it is. */
  onChange: (amount: string, drag?: string) => void;
  /** A drag has ended. */
  onRest: () => void;
  /** Takes what was typed. Says what is wrong with it, or nothing. */
  onType: (amount: string) => Promise<string | undefined>;
}

interface Drag {
  name: string;
  x: number;
  value: number;
  step: number;
  unit: string;
  said: number;
  moved: boolean;
}

/** Each drag is a gesture of its own, and one step of undo. */
let drags = 0;

/** Pixels of a drag for one step. */
const PX_PER_STEP = 7;

/** The nearest whole number of steps, free of the tail of binary fractions. */
function inSteps(value: number, step: number): number {
  return Math.round(Math.round(value / step) * step * 1e6) / 1e6;
}

/**
 * An amount: click to type, drag sideways to scrub, arrow keys to nudge by a kitchen step.
 */
export const AmountField = memo(function AmountField(props: AmountFieldProps) {
  const { of, ingredient, way, onChange, onRest, onType } = props;
  const [typed, setTyped] = useState<string | undefined>();
  const [wrong, setWrong] = useState<string | undefined>();
  /** Where two readings are possible. */
  const [choices, setChoices] = useState<string[]>([]);
  /** What is under the finger during a drag: it doesn't wait for the core. */
  const [scrubbed, setScrubbed] = useState<string | undefined>();
  const drag = useRef<Drag>(undefined);
  const button = useRef<HTMLDivElement>(null);
  /** Whether the keyboard goes on from here once the field has closed; a click elsewhere stays there. */
  const goesOn = useRef(false);
  useEffect(() => {
    if (typed !== undefined || !goesOn.current) return;
    goesOn.current = false;
    button.current?.focus();
  }, [typed]);

  /** Follows the pointer. Value, step and unit are those that it began with. */
  const follow = (event: React.PointerEvent) => {
    const from = drag.current;
    if (!from) return;
    const dx = event.clientX - from.x;
    if (Math.abs(dx) > 4) from.moved = true;
    if (!from.moved) return;
    const next = Math.max(
      inSteps(from.value + (dx / PX_PER_STEP) * from.step, from.step),
      from.step,
    );
    if (next === from.said) return;
    from.said = next;
    setScrubbed(inWords(next, from.unit));
    onChange(`${next} ${from.unit}`.trim(), from.name);
  };
  const end = (takenBack: boolean) => {
    const from = drag.current;
    drag.current = undefined;
    document.documentElement.classList.remove("scrubbing");
    setScrubbed(undefined);
    if (from?.moved) onRest();
    else if (!takenBack) setTyped(way.text);
  };
  const nudge = (steps: number) => {
    const next = Math.max(inSteps(way.value + steps * way.step, way.step), way.step);
    onChange(`${next} ${way.unit}`.trim());
  };

  const commit = async (text: string) => {
    if (text.trim() === way.text) {
      setTyped(undefined);
      setWrong(undefined);
      return;
    }
    const { read, unread } = await readAs("amount", text, { before: way.text, ingredient });
    setChoices(unread?.choices ?? []);
    const problem = read ? await onType(read.text) : unread?.message;
    setWrong(problem);
    if (problem === undefined) setTyped(undefined);
    else goesOn.current = false;
  };

  if (typed !== undefined) {
    return (
      <Box sx={{ position: "relative" }}>
        <Box
          component="input"
          aria-label={`Amount of ${of}`}
          aria-invalid={wrong !== undefined}
          autoFocus
          value={typed}
          onFocus={(event: React.FocusEvent<HTMLInputElement>) => {
            if (event.target.value === way.text) event.target.select();
          }}
          onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
            setTyped(event.target.value);
            setWrong(undefined);
          }}
          onBlur={() => void commit(typed)}
          onKeyDown={(event: React.KeyboardEvent) => {
            event.stopPropagation();
            goesOn.current = event.key === "Enter" || event.key === "Escape";
            if (event.key === "Enter") void commit(typed);
            if (event.key === "Escape") {
              setTyped(undefined);
              setWrong(undefined);
            }
          }}
          sx={{
            ...displayFont,
            width: 112,
            font: "inherit",
            fontWeight: 700,
            fontSize: 16,
            textAlign: "right",
            color: colour("ink"),
            bgcolor: colour("enamel"),
            border: `1.5px solid ${wrong ? colour("stop") : colour("cobalt")}`,
            borderRadius: "8px",
            px: 0.75,
            py: 0.5,
          }}
        />
        {wrong && (
          <Box
            role="alert"
            sx={{
              position: "absolute",
              zIndex: 5,
              right: 0,
              top: "calc(100% + 4px)",
              width: 240,
              p: 1.25,
              borderRadius: "8px",
              bgcolor: colour("stopWash"),
              color: colour("ink"),
              border: `1px solid ${colour("stop")}`,
              fontSize: 13.5,
              textAlign: "left",
            }}
          >
            {wrong}
            {choices.length > 0 && (
              <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
                {choices.map((choice) => (
                  <Button
                    key={choice}
                    variant="outlined"
                    size="small"
                    onClick={() => void commit(choice)}
                  >
                    {choice}
                  </Button>
                ))}
              </Box>
            )}
          </Box>
        )}
      </Box>
    );
  }

  return (
    <div
      ref={button}
      className={look.amount}
      tabIndex={0}
      role="spinbutton"
      aria-label={`Amount of ${of}`}
      aria-valuenow={way.value}
      aria-valuetext={scrubbed ?? way.text}
      title="Click to type, drag to change, arrow keys to nudge"
      onPointerDown={(event: React.PointerEvent<HTMLDivElement>) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        document.documentElement.classList.add("scrubbing");
        drag.current = {
          name: `drag ${(drags += 1)}`,
          x: event.clientX,
          value: way.value,
          step: way.step,
          unit: way.unit,
          said: way.value,
          moved: false,
        };
      }}
      onPointerMove={follow}
      onPointerUp={() => end(false)}
      onPointerCancel={() => end(true)}
      onKeyDown={(event: React.KeyboardEvent) => {
        const steps = {
          ArrowUp: 1,
          ArrowRight: 1,
          ArrowDown: -1,
          ArrowLeft: -1,
          PageUp: 10,
          PageDown: -10,
        };
        const by = steps[event.key as keyof typeof steps];
        if (by && !event.ctrlKey && !event.metaKey && !event.altKey) {
          event.preventDefault();
          nudge(by);
        } else if (event.key === "Enter" || event.key === " ") {
          event.preventDefault();
          setTyped(way.text);
        } else if (/^[\d.,¼½¾⅓⅔]$/.test(event.key)) {
          event.preventDefault();
          setTyped(event.key);
        }
      }}
    >
      {scrubbed ?? way.text}
    </div>
  );
});
