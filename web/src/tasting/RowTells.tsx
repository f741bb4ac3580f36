import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { useDrinksToChoose } from "../api/queries";
import { colour } from "../ui/theme";
import { MarkSign } from "./Mark";
import type { TastingView } from "./queries";
import { Belief, Glasses, Part } from "./Table";

/** What a row tells, once it may be told: glasses with what is in them, ideals, and the group's. */
export function RowTells({ view, row }: { view: TastingView; row: Schemas["RowAbout"] }) {
  const { tells, key, glasses } = view;
  const code = (glass: number) => key.find((line) => line.glass === glass)?.code ?? "";
  const figures = glasses.flatMap((g) => (g.x == null ? [] : [Math.exp(g.x)]));
  const [from, to] = [(figures[0] ?? 1) * 0.7, (figures.at(-1) ?? 2) * 1.4];
  const best = Math.max(...tells.liked.map((l) => (l.many > 0 ? l.mean : 0)));
  const words = row.words;
  const { data: shelf } = useDrinksToChoose();
  const drinkId = shelf?.drinks.find((d) => d.name === row.drink)?.id;
  const unsure = tells.ideals.some((ideal) => ideal.sureness !== "settled");
  const around = tells.group?.middle ?? tells.ideals[0]?.middle ?? 16;
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      <Glasses
        glasses={glasses.map((glass, i) => ({
          key: glass.name,
          label: glass.name,
          under: code(i),
          liquid: row.colour,
          fill: 0.6,
        }))}
        height={110}
      >
        {(index) => {
          const liked = tells.liked.find((l) => l.glass === index);
          return liked && liked.many > 0 ? (
            <Box sx={{ pt: 1, fontWeight: liked.mean === best ? 700 : 500 }}>
              {liked.mean.toFixed(1)}
              <Box component="span" sx={{ color: colour("muted"), fontWeight: 500 }}>
                {" "}
                of 9
              </Box>
            </Box>
          ) : null;
        }}
      </Glasses>
      {tells.in_order.length > 0 && (
        <Part name="Correct order">
          {tells.in_order.map((one) => (
            <Box key={one.taster}>
              {view.tasters.find((t) => t.id === one.taster)?.taster.name}: {one.right} of {one.of}{" "}
              pairs
            </Box>
          ))}
        </Part>
      )}
      {tells.ideals.length > 0 && (
        <Part name="What each taster likes best">
          <Box
            component="ul"
            sx={{
              listStyle: "none",
              m: 0,
              p: 0,
              display: "grid",
              columnGap: 4,
              rowGap: 2,
              gridTemplateColumns: "repeat(auto-fill, minmax(min(360px, 100%), 1fr))",
            }}
          >
            {tells.ideals.map((ideal) => {
              const taster = view.tasters.find((t) => t.id === ideal.taster)?.taster;
              if (!taster) return null;
              return (
                <li key={ideal.taster}>
                  <Box sx={{ display: "flex", gap: 1, alignItems: "center", fontWeight: 600 }}>
                    <MarkSign mark={taster.mark} />
                    <span dir="auto">{taster.name}</span>
                  </Box>
                  {ideal.sureness !== "cant_tell" && (
                    <Belief
                      low={ideal.low}
                      high={ideal.high}
                      middle={ideal.middle}
                      from={from}
                      to={to}
                      ends={[
                        (words[0] ?? "little").replace("too ", ""),
                        (words[4] ?? "much").replace("too ", ""),
                      ]}
                    />
                  )}
                  <Box sx={{ color: colour("ink") }}>
                    {ideal.words}
                    {ideal.sureness === "likely" && ideal.more > 0 && (
                      <Box component="span" sx={{ color: colour("muted") }}>
                        . About {ideal.more} more {ideal.more === 1 ? "glass" : "glasses"} would
                        settle it.
                      </Box>
                    )}
                  </Box>
                </li>
              );
            })}
          </Box>
          {tells.group && (
            <Box sx={{ mt: 2, fontSize: 17 }}>All together: {tells.group.words}.</Box>
          )}
          {drinkId && (row.moves === "sugar" || row.moves === "acid") && unsure && (
            <Button
              component={Link}
              to={`/tasting/new/row?drink=${drinkId}&middle=${around.toFixed(1)}&step=1.15`}
              variant="outlined"
              sx={{ mt: 2 }}
            >
              A closer row around {around.toFixed(0)} to 1
            </Button>
          )}
        </Part>
      )}
      {view.seats.some((seat) => seat.remarks.length > 0) && view.stage === "over" && (
        <Part name="Remarks">
          {view.seats.map((seat) =>
            seat.remarks.map((remark, i) => (
              <Box key={`${seat.taster} ${i}`} dir="auto" sx={{ overflowWrap: "anywhere" }}>
                “{remark}” {view.tasters.find((t) => t.id === seat.taster)?.taster.name}
              </Box>
            )),
          )}
        </Part>
      )}
    </Box>
  );
}
