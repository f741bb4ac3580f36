import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { colour } from "../ui/theme";
import { Trouble } from "../ui/Trouble";
import { type TastingView, useSheet } from "./queries";
import { SheetTable } from "./SheetTable";
import { Part } from "./Table";
import { useSay } from "./useSay";

/** While it is poured: the sheet with the codes, stickers to print, and the word that it is done. */
export function Pourer({ view }: { view: TastingView }) {
  const { data: sheet, error, refetch } = useSheet(view.id, view.stage, true);
  const { say, wrong, waits } = useSay(view.id);
  const name = (id: string) => view.tasters.find((t) => t.id === id)?.taster.name ?? "";
  const codes = sheet?.key.filter((line) => line.taster == null).map((line) => line.code);
  const sets = sheet?.key.filter((line) => line.taster != null) ?? [];
  return (
    <Box sx={{ display: "grid", gap: 2 }}>
      <Trouble error={error ?? undefined} again={() => void refetch()} />
      {sheet?.ladder && <SheetTable ladder={sheet.ladder} codes={codes ?? []} />}
      {sets.length > 0 && view.about && "compare" in view.about && (
        <Part name="Contents">
          <SetTable view={view} lines={sets} />
        </Part>
      )}
      {sheet?.ladder && sheet.orders.length > 0 && (
        <Part name="Order">
          <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
            {view.seats.map((seat, i) => (
              <Box component="li" key={seat.taster} sx={{ py: 0.5 }}>
                <Box component="span" sx={{ fontWeight: 600 }} dir="auto">
                  {name(seat.taster)}
                </Box>
                : {sheet.orders[i]?.join(", ")}
              </Box>
            ))}
          </Box>
        </Part>
      )}
      <Box
        className="no-print"
        sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}
      >
        <Button
          variant="contained"
          disabled={waits || !sheet}
          onClick={() => say("poured")}
          sx={{ minHeight: 56, px: 4, fontSize: 18, borderRadius: "14px" }}
        >
          All poured
        </Button>
        {sheet && (codes?.length ?? 0) + sets.length > 0 && (
          <Button variant="outlined" href={`/tasting/${view.id}/print`} sx={{ minHeight: 56 }}>
            Print stickers and sheets
          </Button>
        )}
        {view.blind && (
          <Box sx={{ color: colour("muted") }}>
            After this, the contents stay hidden until you reveal the glasses.
          </Box>
        )}
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}

type Line = { taster?: string | null; nth: number; code: string; name: string };

/** What stands before whom, and what is in it. */
export function SetTable({ view, lines }: { view: TastingView; lines: Line[] }) {
  const name = (id: string | null | undefined) =>
    view.tasters.find((t) => t.id === id)?.taster.name ?? "";
  const sets = new Map<string, Line[]>();
  for (const line of lines) {
    const key = `${line.nth} ${line.taster}`;
    sets.set(key, [...(sets.get(key) ?? []), line]);
  }
  return (
    <Box sx={{ overflowX: "auto" }}>
      <Box
        component="table"
        sx={{
          borderCollapse: "collapse",
          "& td": {
            py: 0.75,
            pr: 3,
            borderTop: `1px solid ${colour("hairline")}`,
            verticalAlign: "baseline",
          },
        }}
      >
        <tbody>
          {[...sets.entries()].map(([key, set]) => (
            <tr key={key}>
              <td dir="auto">
                {name(set[0]!.taster)}
                {lines.some((l) => l.nth > 0) && ` (${set[0]!.nth + 1})`}
              </td>
              {set.map((line) => (
                <td key={line.code}>
                  <b>{line.code}</b> {line.name}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
