import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useQuestion } from "../api/ask";
import type { Drink, Schemas } from "../api/client";
import { trace } from "../api/compute";
import { MapPlate } from "../drink/balance/MapPlate";
import { useDrinkers } from "../drink/balance/useDrinkers";
import { colour, displayFont } from "../ui/theme";
import { Few, Part } from "./Table";
import { namesOf } from "./words";
import { keys } from "../api/keys";

interface PitchersProps {
  drink: Drink;
  /** Its id on the shelf, if it stands there. */
  drinkId?: string | undefined;
  /** Names of the group, in order. */
  guests: string[];
  shares: Schemas["Share"][];
}

/** The pitchers of a group: where each lies, whom it misses, and what each stirs in. */
export function Pitchers({ drink, drinkId, guests, shares }: PitchersProps) {
  return (
    <Box sx={{ display: "grid", gap: 3 }}>
      {shares.map((share) => (
        <ShareOf
          key={share.guests.join()}
          share={share}
          {...{ drink, drinkId, guests }}
          several={shares.length > 1}
        />
      ))}
    </Box>
  );
}

const ways = [
  ["least_sum", "Best on average"],
  ["nobody_left_out", "Fairest to everyone"],
] as const;

function ShareOf(
  props: Omit<PitchersProps, "shares"> & { share: Schemas["Share"]; several: boolean },
) {
  const { drink, drinkId, guests, share, several } = props;
  const [fair, setFair] = useState<"least_sum" | "nobody_left_out">("least_sum");
  const go = useNavigate();
  const names = share.guests.map((i) => guests[i] ?? "");
  const pitcher = share[fair];
  const without = share.without.map((o) => o.name.toLowerCase());
  const shared = drink.steps.findIndex((step) => step.id === share.shared_until);
  const { data: report } = useQuestion(keys.trace(drink), (signal) => trace(drink, signal));
  const drinkers = useDrinkers(drink.family)?.filter((one) => names.includes(one.name));
  return (
    <Part
      name={
        several
          ? `${namesOf(names, 4)}${without.length > 0 ? `, without ${[...new Set(without)].join(" and ")}` : ""}`
          : "The pitcher"
      }
    >
      {several && (
        <Box sx={{ color: colour("muted"), mb: 1 }}>
          {Math.round(share.part * 100)} % of the whole.
          {shared >= 0 && ` One base up to step ${shared + 1}, then split.`}
        </Box>
      )}
      {share.note && <Box>{share.note}</Box>}
      {pitcher && (
        <>
          <Few label="Choose the pitcher that is" options={ways} chosen={fair} onChoose={setFair} />
          <Box
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 10fr) minmax(0, 9fr)" },
              columnGap: 3,
              rowGap: 2,
              mt: 2,
            }}
          >
            {report && (
              <Box sx={{ minWidth: 0, maxWidth: 470 }}>
                <MapPlate
                  map={report.map}
                  colour={report.profile?.colour}
                  name={drink.name}
                  ring={pitcher.spot}
                  drinkers={drinkers}
                />
                <Box sx={{ color: colour("muted"), fontSize: 14, mt: 0.5 }}>
                  The drink as it is, the ring at this pitcher, and what each person likes best.
                </Box>
              </Box>
            )}
            <Box sx={{ minWidth: 0 }}>
              <Box sx={{ display: "flex", alignItems: "baseline", gap: 1.5, flexWrap: "wrap" }}>
                <Box
                  data-figure="pitcher-ratio"
                  sx={{ ...displayFont, fontSize: 46, fontWeight: 700, letterSpacing: "-0.02em" }}
                >
                  {pitcher.ratio.toFixed(0)} to 1
                </Box>
                <Box sx={{ color: colour("muted") }}>
                  {pitcher.spot.sweetness.toFixed(1)} g sugar, {pitcher.spot.acidity.toFixed(2)} %
                  acid in 100 g
                </Box>
              </Box>
              {!pitcher.reached && (
                <Box sx={{ color: colour("stop") }}>
                  This is close, but not exact. {pitcher.stops.join(" ")}
                </Box>
              )}
              <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, mt: 1, maxWidth: 640 }}>
                {pitcher.guests.map((guest) => (
                  <Box
                    component="li"
                    key={guest.guest}
                    sx={{
                      display: "grid",
                      py: 1,
                      borderTop: `1px solid ${colour("hairline")}`,
                    }}
                  >
                    <Box sx={{ fontWeight: 600, overflowWrap: "anywhere" }} dir="auto">
                      {guests[guest.guest]}
                    </Box>
                    <Box sx={{ color: colour("muted") }}>{missed(guest.miss)}</Box>
                    <Box>
                      {guest.stirs_in
                        ? `stirs in ${guest.stirs_in.amount} ${guest.stirs_in.name.toLowerCase()}`
                        : "drinks it as is"}
                    </Box>
                  </Box>
                ))}
              </Box>
              {drinkId && without.length === 0 && (
                <Button
                  variant="contained"
                  sx={{ mt: 1.5 }}
                  onClick={() => void go(`/drinks/${drinkId}`, { state: { ring: pitcher.spot } })}
                >
                  Aim at it in Balance
                </Button>
              )}
            </Box>
          </Box>
        </>
      )}
    </Part>
  );
}

/** How far off, in differences that are just noticed. */
function missed(miss: number): string {
  const far = Math.abs(miss);
  if (far < 1) return "no noticeable difference";
  const way = miss > 0 ? "sweeter" : "more sour";
  return far < 2
    ? `slightly ${way} than they like`
    : `${way} than they like, ${far.toFixed(0)} noticeable steps`;
}
