import type { Drink, DrinkReport } from "../../api/client";
import { effort, span } from "../../ui/format";
import look from "./Steps.module.css";

/** The recipe as it is printed: what goes in, and what to do. */
export function OnPaper({ drink, report }: { drink: Drink; report: DrinkReport }) {
  const waits = (steps: string[]) => {
    const frame = report.frames.find((f) => f.step === steps.at(-1));
    const said = frame && /minute|hour|day/.test(frame.sentence);
    return frame && !said && frame.minutes >= 3 && ` (${span(frame.minutes)})`;
  };
  const cautions = (steps: string[]) =>
    report.frames.filter((f) => steps.includes(f.step)).flatMap((f) => f.cautions);
  return (
    <article className={look.paper} aria-hidden="true">
      {drink.note && <p>{drink.note}</p>}
      <h2>Ingredients</h2>
      <dl>
        {report.lines.map((line) => (
          <div key={line.step} style={{ display: "contents" }}>
            <dt>{`${line.is_fill_line ? "up to " : ""}${line.ways[0]?.text ?? ""}`}</dt>
            <dd>{line.name}</dd>
          </div>
        ))}
      </dl>
      <h2>Method</h2>
      <ol>
        {report.method.map(({ steps, sentence }) => (
          <li key={steps[0]}>
            {sentence}
            {waits(steps)}
            {cautions(steps).map((caution) => (
              <strong key={caution.message}> {caution.message}</strong>
            ))}
          </li>
        ))}
      </ol>
      <p>{effort(report).join(", ")}.</p>
    </article>
  );
}
