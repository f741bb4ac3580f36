import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { memo, useState } from "react";
import type { BalanceMapData, Drink, DrinkReport, Profile, Spread } from "../../api/client";
import { Figure, type FigureProps } from "../../ui/Figure";
import { useExplains } from "../../ui/help";
import { effort, volumeParts } from "../../ui/format";
import type { Editor } from "../editing/editor";
import look from "./Balance.module.css";

const families: Record<Drink["family"], string> = {
  lemonade: "lemonade",
  fruit_water: "fruit water",
  infusion: "infusion",
  soda: "soda",
  syrup: "syrup or cordial",
};

/** A range in words, where it is wide enough to be told. */
function told(range: Spread["acidity"] | undefined, places: number): string | undefined {
  if (!range || range.high - range.low < 0.03 * range.middle) return undefined;
  return `${range.low.toFixed(places)} to ${range.high.toFixed(places)}`;
}

/** The one figure that tells most: the ratio, and what people call it. */
export const Headline = memo(function Headline(props: {
  profile: Profile | null | undefined;
  point: BalanceMapData["point"];
}) {
  const { profile, point } = props;
  const explain = useExplains();
  if (!profile || !point) return null;
  const words = [point.strength === "full" ? undefined : point.strength, point.band];
  return (
    <button
      type="button"
      data-figure="ratio"
      className={look.headline}
      aria-haspopup="dialog"
      onClick={() => explain("sugar to acid")}
    >
      <span className={look.ratio}>
        {profile.ratio == null ? "–" : profile.ratio.toFixed(profile.ratio < 100 ? 1 : 0)}
      </span>
      <span className={look.band}>
        sugar to acid<span className={look.dot}> · </span>
        <b data-figure="band">{words.filter(Boolean).join(", ") || "no acid"}</b>
      </span>
      <span className={look.side}>
        <b>{profile.sweetness_percent.toFixed(1)} g</b> sweet in 100 g
      </span>
      <span className={look.side}>
        <b>{profile.acidity_percent.toFixed(2)} %</b> acid
      </span>
    </button>
  );
});

interface FiguresProps {
  profile: Profile | null | undefined;
  rests: DrinkReport["rests_on"];
  /** Where the fruit may take the figures. */
  spread: Spread | undefined;
}

/** The other figures of the drink as it is served. */
export const Figures = memo(function Figures({ profile, rests, spread }: FiguresProps) {
  if (!profile) {
    return <div className={look.words}>The figures appear with the first ingredient.</div>;
  }
  return (
    <div className={look.grid}>
      {cells(profile, rests, spread).map((cell) => (
        <Figure key={cell.name} {...cell} />
      ))}
    </div>
  );
});

/** The figures, in the order in which a maker asks for them. */
function cells(
  profile: Profile,
  rests: DrinkReport["rests_on"],
  spread: Spread | undefined,
): FigureProps[] {
  const total = volumeParts(profile.volume_ml);
  const all: (FigureProps | false)[] = [
    {
      name: "sweetness",
      word: "sweetness",
      value: profile.sweetness_percent.toFixed(1),
      unit: "g in 100 g",
      label: "sweetness",
      rests: rests.sweetness,
      range: told(spread?.sweetness, 1),
    },
    {
      name: "acidity",
      word: "acidity",
      value: profile.acidity_percent.toFixed(2),
      unit: "%",
      label: "acidity",
      rests: rests.acidity,
      range: told(spread?.acidity, 2),
    },
    {
      name: "brix",
      word: "°Bx",
      value: profile.brix.toFixed(1),
      unit: "°Bx",
      label: "dissolved",
      rests: rests.sweetness,
      range: told(spread?.brix, 1),
    },
    {
      name: "ph",
      word: "pH",
      value: profile.ph?.toFixed(1) ?? "–",
      unit: "pH",
      label: "± 0.1",
      rests: rests.acidity,
    },
    {
      name: "volume",
      word: "volume",
      value: total.figure,
      unit: total.unit,
      label: profile.served ? "served" : "in all",
      rests: rests.volume,
    },
    profile.fizz_volumes >= 0.1 && {
      name: "fizz",
      word: "fizz",
      value: profile.fizz_volumes.toFixed(1),
      unit: "vol",
      label: "fizz",
      rests: "estimate",
    },
    profile.alcohol_percent >= 0.05 && {
      name: "alcohol",
      word: "alcohol",
      value: profile.alcohol_percent.toFixed(1),
      unit: "% vol",
      label: "alcohol",
    },
    {
      name: "glass-sugar",
      word: "sugar a glass",
      value: profile.glass_sugar_g.toFixed(0),
      unit: "g",
      label: `sugar ${profile.served ? "a glass" : "in 100 ml"}`,
    },
  ];
  return all.filter((cell) => cell !== false);
}

interface TakesProps {
  report: DrinkReport;
  /** What it costs, in words. */
  cost: string | undefined;
}

/** What it takes in time and money, and how long it keeps: one line under the map. */
export const Takes = memo(function Takes({ report, cost }: TakesProps) {
  const { keeping, profile } = report;
  const [why, setWhy] = useState(false);
  if (!profile) return null;
  const told = [...effort(report), ...(keeping ? [""] : [])].join(" · ");
  return (
    <div className={look.takes} data-figure="takes">
      {told}
      {keeping && (
        <button
          type="button"
          className={keeping.left > 0 ? look.keeps : `${look.keeps} ${look.discard}`}
          aria-expanded={why}
          onClick={() => setWhy(!why)}
        >
          {keeping.words}
        </button>
      )}
      {cost && ` · ${cost}`}
      {why && keeping && (
        <ul className={look.reasons}>
          {keeping.reasons.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
      )}
    </div>
  );
});

/** What it does beside its taste. */
export const InWords = memo(function InWords({ report }: { report: DrinkReport }) {
  const { profile, map, rests_on } = report;
  if (!profile || !map.point) return null;
  const portion = profile.served ? "a glass" : "in 100 ml";
  const anyEstimate = Object.values(rests_on).includes("estimate");
  return (
    <div className={look.words}>
      <p>
        <span data-figure="glass-energy">{profile.glass_energy_kcal.toFixed(0)} kcal</span>{" "}
        {portion}.
      </p>
      {report.water && <p>{report.water}</p>}
      {profile.bitterness_per_l >= 0.7 && (
        <p>Bitterness {profile.bitterness_per_l >= 1 ? "can be tasted" : "is near"} (est.).</p>
      )}
      {profile.pungency_per_l >= 5 && <p>Slight heat from ginger or pepper (est.).</p>}
      {profile.glass_ice_g >= 1 && <p>{profile.glass_ice_g.toFixed(0)} g ice left in a glass.</p>}
      {map.point.thinned_with != null && (
        <p>On the map as drunk: 1 part to {map.point.thinned_with.toFixed(1)} parts of water.</p>
      )}
      <p>
        {anyEstimate ? "From the tables; est. is estimated." : "From the tables."} The shaded area
        is the likely range: 9 times out of 10 the drink lands inside it.
      </p>
    </div>
  );
});

/** By the standards of which kind it is called tart or sweet. */
export const Judged = memo(function Judged(props: { editor: Editor; family: Drink["family"] }) {
  const { editor, family } = props;
  return (
    <TextField
      select
      size="small"
      label="Compared with"
      value={family}
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
});
