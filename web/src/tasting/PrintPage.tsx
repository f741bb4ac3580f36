import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Link, useParams } from "react-router";
import { colour, displayFont } from "../ui/theme";
import { Trouble } from "../ui/Trouble";
import { SetTable } from "./Pourer";
import { useSheet, useTasting } from "./queries";
import { SheetTable } from "./SheetTable";
import { Part, Room, Title } from "./Table";

/** What is printed: the pouring sheet, stickers with codes, and a sheet for each who tastes. */
export default function PrintPage() {
  const { id = "" } = useParams();
  const { data: view, error } = useTasting(id);
  const pouring = view?.stage === "pouring" || view?.stage === "over";
  const { data: sheet } = useSheet(id, view?.stage, pouring);
  if (!view) return <Trouble error={error ?? undefined} />;
  const words = "ladder" in view.about ? view.about.ladder.words : ([] as string[]);
  const glasses = view.seats[0]?.glasses ?? [];
  const sets = sheet?.key.filter((line) => line.taster != null) ?? [];
  // A sticker for each glass of each who tastes.
  const stickers =
    sets.length > 0
      ? sets.map((line) => line.code)
      : view.seats.flatMap(() => glasses.map((g) => g.code)).sort();
  return (
    <Room>
      <Box className="no-print" sx={{ display: "flex", gap: 1, my: 1 }}>
        <Button variant="contained" onClick={() => window.print()}>
          Print
        </Button>
        <Button component={Link} to={`/tasting/${id}`}>
          Back to the tasting
        </Button>
      </Box>
      <Title>{view.name}</Title>
      {sheet?.ladder && (
        <Box sx={{ breakAfter: "page" }}>
          <SheetTable
            ladder={sheet.ladder}
            codes={sheet.key.filter((l) => l.taster == null).map((l) => l.code)}
          />
        </Box>
      )}
      {sets.length > 0 && (
        <Box sx={{ breakAfter: "page" }}>
          <SetTable view={view} lines={sets} />
        </Box>
      )}
      <Part name="Stickers">
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: "repeat(auto-fill, minmax(38mm, 1fr))",
            gap: "2mm",
            breakAfter: "page",
          }}
        >
          {stickers.map((code, i) => (
            <Box
              key={i}
              sx={{
                ...displayFont,
                fontSize: 30,
                fontWeight: 700,
                height: "21mm",
                display: "grid",
                placeItems: "center",
                border: `1px solid ${colour("hairline")}`,
                borderRadius: "3mm",
              }}
            >
              {code}
            </Box>
          ))}
        </Box>
      </Part>
      {"ladder" in view.about &&
        view.seats.map((seat) => (
          <Box key={seat.taster} sx={{ breakInside: "avoid", mb: 4 }}>
            <Part name={view.tasters.find((t) => t.id === seat.taster)?.taster.name ?? "Somebody"}>
              <Box
                component="table"
                sx={{
                  borderCollapse: "collapse",
                  "& td": { p: 1, borderTop: `1px solid ${colour("hairline")}` },
                }}
              >
                <tbody>
                  {seat.glasses.map((glass) => (
                    <tr key={glass.code}>
                      <td>
                        <b>{glass.code}</b>
                      </td>
                      {words.map((word) => (
                        <td key={word}>☐ {word}</td>
                      ))}
                      <td>how good, 1 to 9: ____</td>
                    </tr>
                  ))}
                </tbody>
              </Box>
            </Part>
          </Box>
        ))}
    </Room>
  );
}
