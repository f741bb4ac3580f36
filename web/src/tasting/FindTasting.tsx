import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, api, type Schemas } from "../api/client";
import { useShelfActions } from "../api/queries";
import { colour } from "../ui/theme";
import { Trouble } from "../ui/Trouble";
import type { TastingView } from "./queries";
import { Belief, Jugs, Part, Title } from "./Table";
import { firstSeat, Turn } from "./Turn";
import { useSay } from "./useSay";
import { felts } from "./words";
import { keys } from "../api/keys";

const names = ["sweet", "sour", "water"];

/** Finding one's balance: first the jugs, then glass by glass. */
export function FindTasting({ view, find }: { view: TastingView; find: Schemas["FindAbout"] }) {
  const begun = view.seats.some((seat) => seat.done > 0);
  const [filled, setFilled] = useState(begun);
  const [enough, setEnough] = useState(false);
  const [seat, setSeat] = useState(() => firstSeat(view));
  const mine = view.seats[seat]!;
  const { say, wrong, waits } = useSay(view.id);
  const {
    data: next,
    error,
    isPlaceholderData: mixing,
  } = useQuery({
    queryKey: keys.nextGlass(view.id, mine.taster, mine.done),
    queryFn: () =>
      answer(
        api.POST("/api/tastings/{id}/next", {
          params: { path: { id: view.id } },
          body: { taster: mine.taster },
        }),
      ),
    enabled: filled,
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
  const ideal = view.tells.ideals.find((one) => one.taster === mine.taster);
  if (!filled)
    return (
      <>
        <Title under="These last for a dozen glasses. You also need a glass, a teaspoon and a tablespoon.">
          Fill three jugs
        </Title>
        <Jugs
          jugs={find.jugs.jugs.map((jug, i) => ({
            name: names[i]!,
            liquid: jug.colour,
            fill: [0.75, 0.6, 0.85][i]!,
          }))}
        />
        <Box component="ul" sx={{ listStyle: "none", p: 0, mt: 2.5, mb: 3, fontSize: 18 }}>
          {find.jugs.jugs.map((jug, i) => (
            <Box
              component="li"
              key={jug.name}
              sx={{ py: 1, borderTop: `1px solid ${colour("hairline")}` }}
            >
              <b>{names[i]}</b>:{" "}
              {jug.filled_with.map((t) => `${t.amount} ${t.name.toLowerCase()}`).join(" + ")}
              {i === 0 && ", stirred until it is clear"}
            </Box>
          ))}
        </Box>
        <Button
          variant="contained"
          onClick={() => setFilled(true)}
          sx={{ minHeight: 56, px: 4, fontSize: 18, borderRadius: "14px" }}
        >
          The jugs are ready
        </Button>
      </>
    );
  const settled = !mixing && next?.more === 0 && mine.done > 0;
  if (enough || settled)
    return (
      <>
        <Title>Your balance</Title>
        <Turn view={view} seat={seat} onSeat={setSeat} />
        {ideal && <Result ideal={ideal} />}
        <Box sx={{ mt: 3, display: "flex", flexWrap: "wrap", gap: 1 }}>
          {!settled && (
            <Button variant="outlined" onClick={() => setEnough(false)}>
              One more glass
            </Button>
          )}
          <Button component={Link} to="/tasting" variant="outlined">
            Done
          </Button>
          {ideal && ideal.sureness !== "cant_tell" && (
            <MakeAtBalance
              tasting={view.id}
              taster={mine.taster}
              name={view.tasters.find((t) => t.id === mine.taster)?.taster.name ?? "me"}
            />
          )}
        </Box>
        <Box sx={{ color: colour("muted"), mt: 2, maxWidth: 620 }}>
          It now shows on every lemonade map, and you can set it as a target in Balance. Fruit that
          is sourer than usual shifts it slightly: measure your juice, or use citric acid.
        </Box>
      </>
    );
  const mixed = next?.mixed;
  return (
    <>
      <Box sx={{ display: "flex", justifyContent: "space-between", color: colour("muted") }}>
        <span>Find my balance</span>
        <span>glass {mine.done + 1}</span>
      </Box>
      <Title>Mix this one and taste</Title>
      <Turn view={view} seat={seat} onSeat={setSeat} />
      <Trouble error={error ?? undefined} />
      {mixed && (
        <Jugs
          jugs={find.jugs.jugs.map((jug, i) => ({
            name: names[i]!,
            liquid: jug.colour,
            fill: [0.75, 0.6, 0.85][i]! - 0.02 * mine.done,
            over: mixed.glass.pours.find((pour) => pour.jug === i)?.amount ?? "none",
          }))}
          glass={{ name: "yours", liquid: find.jugs.jugs[1]!.colour, fill: 0.5 }}
        />
      )}
      <Box
        role="group"
        aria-label="How is it"
        sx={{ display: "grid", gap: 1, mt: 2, maxWidth: 520 }}
      >
        {felts.map((felt, index) => (
          <Box
            key={felt}
            component="button"
            type="button"
            disabled={!mixed || waits || mixing}
            onClick={() =>
              mixed && say({ mixed: { taster: mine.taster, spoons: mixed.spoons, felt } })
            }
            sx={{
              font: "inherit",
              fontSize: 17,
              fontWeight: 600,
              minHeight: 54,
              color: colour("ink"),
              bgcolor: colour("enamel"),
              border: `2px solid ${colour("hairline")}`,
              borderRadius: "14px",
              cursor: "pointer",
              "&:active": { bgcolor: colour("cobalt"), color: colour("onCobalt") },
            }}
          >
            {find.words[index]}
          </Box>
        ))}
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), mt: 1 }}>
          {wrong}
        </Box>
      )}
      {mine.done > 0 && ideal && (
        <Box sx={{ mt: 2 }}>
          <Belief
            low={ideal.low}
            high={ideal.high}
            middle={ideal.middle}
            ends={["tart", "sweet"]}
            from={6}
            to={40}
          />
          <Box role="status" sx={{ maxWidth: 520 }}>
            {capital(ideal.words)}.{" "}
            {ideal.more > 0 &&
              `About ${ideal.more} more ${ideal.more === 1 ? "glass" : "glasses"} would settle it. `}
            <Button
              onClick={() => setEnough(true)}
              sx={{ minHeight: 44, p: 0, px: 0.5, verticalAlign: "baseline" }}
            >
              Stop here
            </Button>
          </Box>
        </Box>
      )}
    </>
  );
}

/** The next thing to do with a balance: a lemonade that has it, saved and opened. */
function MakeAtBalance(props: { tasting: string; taster: string; name: string }) {
  const { tasting, taster, name } = props;
  const { create } = useShelfActions();
  const go = useNavigate();
  const make = useMutation({
    mutationFn: async () => {
      const path = { params: { path: { id: tasting } } };
      const { drink } = await answer(
        api.POST("/api/tastings/{id}/lemonade", { ...path, body: { taster } }),
      );
      return create.mutateAsync({ ...drink, name: `Lemonade for ${name}` });
    },
    onSuccess: (made) => void go(`/drinks/${made.id}`),
  });
  return (
    <>
      <Button variant="contained" disabled={make.isPending} onClick={() => make.mutate()}>
        Make a lemonade at my balance
      </Button>
      <Trouble error={make.error ?? undefined} />
    </>
  );
}

function capital(words: string): string {
  const plain = words.replace(/\.$/, "");
  return plain.charAt(0).toUpperCase() + plain.slice(1);
}

function Result({ ideal }: { ideal: Schemas["IdealView"] }) {
  return (
    <Part
      name={
        ideal.sureness === "cant_tell"
          ? "We can’t tell yet"
          : `About ${ideal.middle.toFixed(0)} to 1`
      }
    >
      <Belief
        low={ideal.low}
        high={ideal.high}
        middle={ideal.middle}
        ends={["tart", "sweet"]}
        from={6}
        to={40}
      />
      <Box sx={{ fontSize: 17, mt: 1 }}>{capital(ideal.words)}.</Box>
    </Part>
  );
}
