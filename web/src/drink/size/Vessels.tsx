import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Link } from "react-router";
import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink, type DrinkReport, type Schemas } from "../../api/client";
import { useKitchen } from "../../api/queries";
import { colour, displayFont } from "../../ui/theme";
import { volume } from "../../ui/format";
import { VesselDrawing } from "../../ui/vessel";
import { Trouble } from "../../ui/Trouble";
import { setVessel } from "../editing/changes";
import type { Editor } from "../editing/editor";
import { keys } from "../../api/keys";

type Fit = Schemas["Fit"];

/** Which of this kitchen's vessels the drink fits into, and what to do where none is large enough. */
export function Vessels(props: { editor: Editor; drink: Drink; report: DrinkReport }) {
  const { editor, drink, report } = props;
  const { kitchen } = useKitchen();
  const { data, error, again, latest } = useQuestion(
    keys.vessels(drink.steps, drink.vessels, kitchen.vessels),
    (signal) =>
      answer(
        api.POST("/api/compute/vessels", { body: { drink }, headers: asking("vessels"), signal }),
      ),
  );
  if (!data) return <Trouble error={error} again={again} />;
  const none = (kitchen.vessels ?? []).length === 0;
  /** Puts the kitchen's vessels in the place of the drink's. */
  const takeThem = () =>
    void latest(({ fits }) =>
      editor.edit((before) =>
        fits.reduce((d, fit) => {
          const own = kitchen.vessels?.find((v) => v.name === fit.taken[0]?.name);
          if (!own || fit.taken.length !== 1) return d;
          return setVessel(fit.vessel, {
            name: own.name,
            capacity: own.capacity,
            diameter_mm: own.diameter_mm ?? undefined,
            material: own.material ?? undefined,
          })(d);
        }, before),
      ),
    );
  return (
    <Box sx={{ maxWidth: 1120, display: "grid", gap: 2 }}>
      {none && (
        <Box sx={{ color: colour("muted") }}>
          Add your vessels to see what fits. <Link to="/cupboard/vessels">Add your vessels</Link>.
        </Box>
      )}
      {data.batches > 1 && (
        <Box
          role="status"
          sx={{
            bgcolor: colour("notice"),
            color: colour("onNotice"),
            borderRadius: "12px",
            p: 1.75,
          }}
        >
          <strong>In {data.batches} rounds</strong> of {volume(data.batch_ml)} each.
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
            <Button
              variant="outlined"
              onClick={() =>
                void latest(({ batch }) => editor.edit((d) => ({ ...d, steps: batch.steps })))
              }
            >
              Show one round
            </Button>
          </Box>
        </Box>
      )}
      {data.instead && (
        <Box sx={{ bgcolor: colour("wash"), borderRadius: "12px", p: 1.75 }}>
          <strong>You can also change the order.</strong> {data.instead.message}
          <Box sx={{ mt: 1 }}>
            <Button
              variant="outlined"
              onClick={() =>
                void latest(({ instead }) => {
                  if (instead) editor.edit((d) => ({ ...d, steps: instead.drink.steps }));
                })
              }
            >
              Use this order
            </Button>
          </Box>
        </Box>
      )}
      <Box
        component="ul"
        aria-label="Vessels"
        sx={{
          listStyle: "none",
          m: 0,
          p: 0,
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "1fr 1fr" },
          columnGap: 4,
        }}
      >
        {data.fits.map((fit) => (
          <Row
            key={fit.vessel}
            fit={fit}
            liquid={report.vessels.find((v) => v.id === fit.vessel)?.fullest?.colour}
          />
        ))}
      </Box>
      {data.fits.some((f) => f.taken.length === 1 && f.taken[0]!.count === 1) && (
        <Button variant="contained" onClick={takeThem} sx={{ justifySelf: "start" }}>
          Use these vessels
        </Button>
      )}
    </Box>
  );
}

function Row({ fit, liquid }: { fit: Fit; liquid: string | undefined }) {
  const taken = fit.taken[0];
  const fill = taken ? taken.filled_ml / taken.capacity_ml : 1.1;
  return (
    <Box
      component="li"
      data-fit={fit.vessel}
      sx={{
        display: "grid",
        gridTemplateColumns: "72px minmax(0, 1fr)",
        gap: 2,
        alignItems: "center",
        py: 1.25,
        borderBottom: `1px solid ${colour("hairline")}`,
      }}
    >
      <svg width={72} height={64} aria-hidden>
        <g transform="translate(32 60)">
          <VesselDrawing
            kind={fit.kind}
            width={fit.kind === "bottle" ? 22 : 38}
            height={fit.kind === "pot" || fit.kind === "bowl" ? 30 : 50}
            fill={fit.fits ? fill : 1.15}
            liquid={liquid ?? "transparent"}
          />
        </g>
      </svg>
      <Box>
        <Box sx={{ ...displayFont, fontSize: 17, fontWeight: 700 }}>{fit.name}</Box>
        <Box sx={{ color: colour(fit.fits ? "ink" : "stop"), fontWeight: fit.fits ? 400 : 700 }}>
          {fit.message}
        </Box>
        <Box sx={{ fontSize: 14, color: colour("muted") }}>
          When fullest {volume(fit.fullest_ml)}; for that it must hold {volume(fit.needed_ml)} to
          the brim.
        </Box>
      </Box>
    </Box>
  );
}
