import Box from "@mui/material/Box";
import { useQuestion } from "../api/ask";
import { type Drink, type Schemas } from "../api/client";
import { trace } from "../api/compute";
import { colour } from "../ui/theme";
import { span, volume } from "../ui/format";
import { Part } from "./Table";
import { keys } from "../api/keys";

interface SheetTableProps {
  ladder: Schemas["Ladder"];
  /** The codes of the glasses, from little to much. */
  codes?: string[];
  /** Only what one wants to know before it is set up. */
  brief?: boolean;
}

/** How a row is poured: its base, its jugs, each glass; and what all of it takes. */
export function SheetTable({ ladder, codes, brief = false }: SheetTableProps) {
  return (
    <Box
      sx={{
        display: "grid",
        columnGap: 5,
        alignItems: "start",
        gridTemplateColumns: brief ? "1fr" : { xs: "1fr", lg: "minmax(0, 1fr) minmax(0, 1fr)" },
      }}
    >
      <div>
        <Part name="What you need">
          <Box component="p" sx={{ m: 0, maxWidth: 640 }}>
            {ladder.takes.map((t) => `${t.name.toLowerCase()} ${t.amount}`).join(", ")};{" "}
            {span(ladder.minutes)}, {span(ladder.hands_on_minutes)} hands-on.
          </Box>
          {ladder.notes.map((note) => (
            <Box key={note} component="p" sx={{ m: 0, mt: 1, color: colour("muted") }}>
              {note}
            </Box>
          ))}
        </Part>
        {!brief && ladder.base && <Base base={ladder.base} />}
      </div>
      <div>
        <Part name="Jugs">
          <Box component="ol" sx={{ m: 0, pl: 2.5, display: "grid", gap: 0.75 }}>
            {ladder.base && (
              <li>
                {brief
                  ? `Make the base: ${ladder.base.name.toLowerCase()} with less of what varies.`
                  : "Make the base as shown."}
              </li>
            )}
            {ladder.jugs.map((jug) => (
              <li key={jug.name}>
                <b>{jug.name}</b>:{" "}
                {jug.filled_with.map((t) => `${t.amount} ${t.name.toLowerCase()}`).join(" + ")}
                {!brief && (
                  <Box component="span" sx={{ color: colour("muted") }}>
                    {" "}
                    makes {volume(jug.volume_ml)}, {jug.sweetness.toFixed(1)} g sweetness and{" "}
                    {jug.acidity.toFixed(2)} % acid
                  </Box>
                )}
              </li>
            ))}
          </Box>
        </Part>
        <Part name="Glasses">
          <Box sx={{ overflowX: "auto" }}>
            <Box
              component="table"
              sx={{
                borderCollapse: "collapse",
                "& td, & th": {
                  textAlign: "left",
                  py: 0.75,
                  pr: 2.5,
                  fontWeight: 500,
                  verticalAlign: "baseline",
                  borderTop: `1px solid ${colour("hairline")}`,
                },
                "& th": { color: colour("muted"), fontSize: 14 },
              }}
            >
              <thead>
                <tr>
                  {codes && <th>code</th>}
                  <th>glass</th>
                  {ladder.jugs.map((jug) => (
                    <th key={jug.name}>{jug.name}</th>
                  ))}
                  <th>sweet, g</th>
                  <th>acid, %</th>
                </tr>
              </thead>
              <tbody>
                {ladder.glasses.map((glass, i) => (
                  <tr key={glass.name}>
                    {codes && (
                      <td>
                        <b>{codes[i]}</b>
                      </td>
                    )}
                    <td>{glass.name}</td>
                    {ladder.jugs.map((jug, j) => {
                      const pour = glass.pours.find((p) => p.jug === j);
                      return (
                        <td key={jug.name}>
                          {pour ? (
                            <>
                              <b>{pour.amount}</b>{" "}
                              <Box component="span" sx={{ color: colour("muted") }}>
                                {pour.grams.toFixed(0)} g
                              </Box>
                            </>
                          ) : (
                            "–"
                          )}
                        </td>
                      );
                    })}
                    <td>{glass.sweetness.toFixed(1)}</td>
                    <td>{glass.acidity.toFixed(2)}</td>
                  </tr>
                ))}
              </tbody>
            </Box>
          </Box>
          <Box sx={{ color: colour("muted"), mt: 1 }}>
            The same in every glass:{" "}
            {ladder.held
              .filter((held) => held.what !== "volume")
              .map((held) => `${held.what} ${range(held)}`)
              .join("; ")}
            .
          </Box>
        </Part>
      </div>
    </Box>
  );
}

/** How the base is made, step by step. */
function Base({ base }: { base: Drink }) {
  const { data } = useQuestion(keys.trace("base", base), (signal) => trace(base, signal));
  return (
    <Part name="The base">
      <Box component="ol" sx={{ m: 0, pl: 2.5, display: "grid", gap: 0.25, maxWidth: 640 }}>
        {data?.frames.map((frame) => (
          <li key={frame.step}>{frame.sentence}</li>
        ))}
      </Box>
    </Part>
  );
}

function range(held: Schemas["Held"]): string {
  const places = held.what === "acidity" ? 2 : held.what === "ratio" ? 0 : 1;
  const [least, most] = [held.least.toFixed(places), held.most.toFixed(places)];
  return least === most ? least : `${least} to ${most}`;
}
