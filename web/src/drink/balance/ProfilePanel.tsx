import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import type { Drink, DrinkReport, Spread } from "../../api/client";
import { colour, displayFont } from "../../app/theme";
import { Figure } from "../../ui/Figure";
import { span, volumeParts } from "../../ui/format";
import type { Editor } from "../editing/editor";

const families: Record<Drink["family"], string> = {
  lemonade: "lemonade",
  fruit_water: "fruit water",
  infusion: "infusion",
  soda: "soda",
  syrup: "syrup or cordial",
};

interface PanelProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
  /** Where the fruit may take the figures. */
  spread: Spread | undefined;
  /** What can be done about them. */
  children: React.ReactNode;
}

/** A range in words, where it is wide enough to be told. */
function told(range: Spread["acidity"] | undefined, places: number): string | undefined {
  if (!range || range.high - range.low < 0.03 * range.middle) return undefined;
  return `${range.low.toFixed(places)} to ${range.high.toFixed(places)}`;
}

/** The one figure that tells most: the ratio, and what people call it. */
export function Headline({ report }: { report: DrinkReport }) {
  const { profile, map } = report;
  const point = map.point;
  if (!profile || !point) return null;
  const words = [point.strength === "full" ? undefined : point.strength, point.band];
  return (
    <Box data-figure="ratio">
      <Box
        sx={{
          ...displayFont,
          fontSize: { xs: 38, md: 46 },
          fontWeight: 800,
          lineHeight: 1,
          letterSpacing: "-0.03em",
        }}
      >
        {profile.ratio == null ? "–" : profile.ratio.toFixed(profile.ratio < 100 ? 1 : 0)}
      </Box>
      <Box sx={{ color: colour("muted"), mt: 0.75, fontSize: 14 }}>
        sugar to acid ·{" "}
        <Box component="span" data-figure="band" sx={{ color: colour("ink"), fontWeight: 600 }}>
          {words.filter(Boolean).join(", ") || "no acid"}
        </Box>
      </Box>
    </Box>
  );
}

/** The other figures of the drink as it is served. */
export function ProfilePanel({ editor, drink, report, spread, children }: PanelProps) {
  const { profile, map, rests_on } = report;
  const point = map.point;
  if (!profile || !point) {
    return (
      <Box sx={{ color: colour("muted") }}>
        The figures appear with the first ingredient.
        <Judged editor={editor} drink={drink} />
      </Box>
    );
  }
  const total = volumeParts(profile.volume_ml);
  const portion = profile.served ? "a glass" : "in 100 ml";
  const anyEstimate = Object.values(rests_on).includes("estimate");
  return (
    <Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "repeat(3, 1fr)", md: "1fr 1fr" },
          columnGap: 2,
          rowGap: 1,
          py: 1.25,
          borderTop: `1px solid ${colour("hairline")}`,
        }}
      >
        <Figure
          name="sweetness"
          value={profile.sweetness_percent.toFixed(1)}
          unit="g in 100 g"
          label="sweetness"
          rests={rests_on.sweetness}
          range={told(spread?.sweetness, 1)}
        />
        <Figure
          name="acidity"
          value={profile.acidity_percent.toFixed(2)}
          unit="%"
          label="acidity"
          rests={rests_on.acidity}
          range={told(spread?.acidity, 2)}
        />
        <Figure
          name="brix"
          value={profile.brix.toFixed(1)}
          unit="°Bx"
          label="dissolved"
          rests={rests_on.sweetness}
          range={told(spread?.brix, 1)}
        />
        <Figure
          name="ph"
          value={profile.ph?.toFixed(1) ?? "–"}
          unit="pH"
          label="± 0.1"
          rests={rests_on.acidity}
        />
        <Figure
          name="volume"
          value={total.figure}
          unit={total.unit}
          label={profile.served ? "served" : "in all"}
          rests={rests_on.volume}
        />
        {profile.fizz_volumes >= 0.1 && (
          <Figure
            name="fizz"
            value={profile.fizz_volumes.toFixed(1)}
            unit="vol"
            label="fizz"
            rests="estimate"
          />
        )}
        {profile.alcohol_percent >= 0.05 && (
          <Figure
            name="alcohol"
            value={profile.alcohol_percent.toFixed(1)}
            unit="% vol"
            label="alcohol"
          />
        )}
        <Figure
          name="glass-sugar"
          value={profile.glass_sugar_g.toFixed(0)}
          unit="g"
          label={`sugar ${portion}`}
        />
      </Box>
      <Box
        sx={{
          borderTop: `1px solid ${colour("hairline")}`,
          py: 1.5,
        }}
      >
        {children}
      </Box>
      <Box
        sx={{
          fontSize: 13,
          color: colour("muted"),
          borderTop: `1px solid ${colour("hairline")}`,
          pt: 1.25,
          display: "grid",
          gap: 0.5,
        }}
      >
        <Box>
          <span data-figure="glass-energy">{profile.glass_energy_kcal.toFixed(0)} kcal</span>{" "}
          {portion}. {span(report.hands_on_minutes)} of work, {span(report.minutes)} in all (est.).
        </Box>
        <Box>
          {anyEstimate ? "From the tables; est. is estimated." : "From the tables."} The cloud is
          what fruit and estimates may do: nine times out of ten it stays inside.
        </Box>
        {profile.bitterness_per_l >= 0.7 && (
          <Box>
            Bitterness {profile.bitterness_per_l >= 1 ? "can be tasted" : "is near"} (est.).
          </Box>
        )}
        {profile.pungency_per_l >= 5 && <Box>It burns a little of ginger or pepper (est.).</Box>}
        {profile.glass_ice_g >= 1 && (
          <Box>{profile.glass_ice_g.toFixed(0)} g of ice are left in a glass.</Box>
        )}
        {report.keeping && (
          <Box>
            Keeps {report.keeping.days === 1 ? "a day" : `${report.keeping.days} days`} in the
            refrigerator. {report.keeping.reasons[0]}
          </Box>
        )}
        {point.thinned_with != null && (
          <Box>On the map as drunk: 1 part to {point.thinned_with.toFixed(1)} parts of water.</Box>
        )}
      </Box>
      <Judged editor={editor} drink={drink} />
    </Box>
  );
}

function Judged({ editor, drink }: { editor: Editor; drink: Drink }) {
  return (
    <TextField
      select
      size="small"
      label="Judged as"
      value={drink.family}
      onChange={(event) =>
        editor.edit((d) => ({ ...d, family: event.target.value as Drink["family"] }))
      }
      fullWidth
      sx={{ mt: 2 }}
    >
      {Object.entries(families).map(([value, name]) => (
        <MenuItem key={value} value={value}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
