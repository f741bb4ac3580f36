import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { useQuestion } from "../api/ask";
import { answer, api, asking, type Schemas } from "../api/client";
import { useShelfActions } from "../api/queries";
import { useTasters } from "../drink/balance/useDrinkers";
import { until } from "../make/clock";
import { colour, displayFont } from "../ui/theme";
import { span, volume } from "../ui/format";
import { PageTitle } from "../ui/PageTitle";
import { Trouble } from "../ui/Trouble";
import { useRead } from "../ui/reading";
import { useSettled } from "../ui/useSettled";
import { VesselDrawing } from "../ui/vessel";
import look from "./Larder.module.css";
import { placeOn, saidOf } from "./words";
import { keys } from "../api/keys";

type Offer = Schemas["OfferedDrink"];

/** What guests mustn't have, by the name that it is asked under. */
const withouts: [string, string][] = [
  ["alcohol", "alcohol"],
  ["milk", "milk"],
  ["almonds", "nuts"],
  ["caffeine", "caffeine"],
  ["honey", "honey"],
];

/** Drinks that are looked at before the rest of a long shelf. */
const LIKELIEST = 40;

function useOffers(asked: Schemas["WhatCanIMake"], wanted: boolean) {
  // Two questions at a time: each has a place of its own in the queue.
  const queue = asked.look_at ? "offers-first" : "offers";
  return useQuestion(
    keys.offers(asked),
    (signal) =>
      answer(api.POST("/api/compute/offers", { body: asked, headers: asking(queue), signal })),
    wanted,
  );
}

/** What can I make? One line of what is there, and drinks worked out from it on a shelf. */
export default function Larder() {
  const [address, setAddress] = useSearchParams();
  const [text, setText] = useState(address.get("have") ?? "");
  const [glasses, setGlasses] = useState("");
  const [without, setWithout] = useState<string[]>([]);
  const [kept, setKept] = useState(true);
  const [whom, setWhom] = useState("");
  const [opened] = useState(() => Date.now());
  const { data: tasters } = useTasters();
  const liking = (tasters ?? []).flatMap(({ id, taster, ideals }) => {
    // What is poured by the pitcher tells most; else what is known of them.
    const told = ideals.filter(({ sureness }) => sureness !== "cant_tell");
    const ideal = told.find(({ family }) => family === "lemonade") ?? told[0];
    return ideal ? [{ id, name: taster.name, spot: ideal.spot }] : [];
  });
  const settled = useSettled(text, 350);
  const many = useRead("number", glasses);
  const asked = {
    text: settled,
    without,
    kept,
    balance: liking.find(({ id }) => id === whom)?.spot ?? null,
    glasses: Number.isFinite(many.number) ? Math.round(many.number) : null,
  };
  const wanted = settled.trim() !== "" || kept;
  // The likeliest come at once, and the rest while they are read.
  const first = useOffers({ ...asked, look_at: LIKELIEST }, wanted);
  const whole = first.data && first.data.looked_at === first.data.there_are;
  const all = useOffers(asked, wanted && whole === false && !first.waits);
  const looking = whole === false && (all.waits || all.data === undefined);
  const data = whole || looking ? first.data : all.data;
  const error = first.error ?? all.error;
  const again = first.error ? first.again : all.again;
  const nothing =
    data && data.offers.length === 0 && settled.trim() !== "" && !first.waits && !looking;
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 6, flex: 1, minWidth: 0 }}>
      <PageTitle mb={1.5}>What can I make?</PageTitle>
      <label className={look.line}>
        <span>
          What you have, with commas between; for how many and when, and what mustn’t be in it
        </span>
        <input
          value={text}
          placeholder="8 limes going hard, half a bottle of ginger syrup, mint; six people at four, no nuts"
          autoFocus
          onChange={(event) => {
            setText(event.target.value);
            setAddress(event.target.value ? { have: event.target.value } : {}, { replace: true });
          }}
        />
      </label>
      <ul className={look.chips} aria-label="Understood">
        {data?.read.have.map((thing, i) => (
          <li key={i}>
            {saidOf(thing)}
            {thing.soon && <b>use soon</b>}
            {thing.assumed && <i>{thing.assumed}</i>}
          </li>
        ))}
        {data?.kept.map((bottle) => (
          <li key={bottle.name + bottle.ml}>
            {bottle.name}, {volume(bottle.ml)}
            {bottle.days <= 3 && <b>use soon</b>}
          </li>
        ))}
        {data?.by && <li>ready by {until(Date.parse(data.by), opened)}</li>}
        {data?.read.unread.map((part) => (
          <li key={part} className={look.unread}>
            “{part}”: not understood
          </li>
        ))}
      </ul>
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", columnGap: 2, mb: 3 }}>
        <label className={look.glasses}>
          Glasses
          <input
            value={glasses}
            inputMode="numeric"
            placeholder={data?.read.people ? String(data.read.people) : "any"}
            aria-invalid={many.wrong !== undefined}
            onChange={(event) => setGlasses(event.target.value)}
          />
        </label>
        {liking.length > 0 && (
          <label className={look.glasses}>
            Balanced for
            <select value={whom} onChange={(event) => setWhom(event.target.value)}>
              <option value="">most people</option>
              {liking.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        )}
        <Box role="group" aria-label="Without" sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
          {withouts.map(([name, word]) => {
            const on = without.includes(name) || (data?.read.without.includes(name) ?? false);
            return (
              <Button
                key={name}
                aria-pressed={on}
                onClick={() =>
                  setWithout(on ? without.filter((w) => w !== name) : [...without, name])
                }
                sx={{
                  borderRadius: 99,
                  minHeight: 44,
                  px: 1.5,
                  bgcolor: on ? colour("wash") : "transparent",
                  color: colour(on ? "ink" : "muted"),
                }}
              >
                no {word}
              </Button>
            );
          })}
        </Box>
        <FormControlLabel
          label="Use bottles from Kept"
          control={<Switch checked={kept} onChange={(event) => setKept(event.target.checked)} />}
        />
      </Box>
      <Trouble error={error} again={again} />
      {nothing && (
        <Box sx={{ color: colour("muted"), maxWidth: 620 }}>
          You can't make a drink from that yet. Add a fruit, a syrup or a herb, or more of what you
          have.
        </Box>
      )}
      {looking && first.data && (
        <Box role="status" sx={{ color: colour("muted"), mb: 1 }}>
          Looking at {first.data.there_are - first.data.looked_at} more drinks…
        </Box>
      )}
      <ul className={look.shelf} aria-label="You can make">
        {data?.offers.map((offer) => (
          <Offered key={offer.source + offer.drink.name} offer={offer} />
        ))}
      </ul>
    </Box>
  );
}

/** One drink: as it stands there, what it uses, and what is missing. */
function Offered({ offer }: { offer: Offer }) {
  const { create } = useShelfActions();
  const go = useNavigate();
  const height = Math.min(150, 60 + 28 * Math.log2(1 + offer.volume_ml / 250));
  const save = async () => {
    const note = [offer.drink.note, offer.changes.length ? `${offer.changes.join("; ")}.` : ""];
    const kept = await create.mutateAsync({
      ...offer.drink,
      note: note.filter(Boolean).join("\n").slice(0, 1000),
    });
    void go(`/drinks/${kept.id}`);
  };
  const place = placeOn(offer.map);
  return (
    <li className={look.offer}>
      <div className={look.stand}>
        <svg width={130} height={160} aria-hidden>
          <g transform="translate(52 158)">
            <VesselDrawing
              kind="pitcher"
              width={78}
              height={height}
              fill={0.86}
              liquid={offer.colour}
            />
          </g>
        </svg>
        {place && (
          <svg
            width={88}
            height={70}
            role="img"
            aria-label={`On the map: ${offer.map.point?.band ?? "no acid"}`}
            className={look.place}
          >
            {place.rays.map((ray) => (
              <path key={ray} d={ray} stroke={colour("bandName")} fill="none" />
            ))}
            <circle cx={place.x} cy={place.y} r={5} fill={offer.colour} stroke={colour("ink")} />
          </svg>
        )}
      </div>
      <Box component="h2" sx={{ ...displayFont, fontSize: 19, fontWeight: 700, m: 0 }}>
        {offer.drink.name}
      </Box>
      <div className={look.small}>
        {volume(offer.volume_ml)}, {Math.max(1, Math.round(offer.glasses))}{" "}
        {Math.round(offer.glasses) > 1 ? "glasses" : "glass"}
        {offer.map.point?.band && ` · ${offer.map.point.band}`}
      </div>
      <div className={look.uses}>
        uses{" "}
        {offer.uses.map((use, i) => (
          <span key={use.name}>
            {i > 0 && ", "}
            {use.soon ? <b>{use.text}</b> : use.text}
          </span>
        ))}
      </div>
      <div className={offer.missing.length ? look.buy : look.small}>
        {offer.missing.length ? `buy ${offer.missing.join(", ")}` : "nothing to buy"}
      </div>
      {offer.changes.length > 0 && (
        <div className={look.small}>
          {offer.source_name}: {offer.changes.join("; ")}
        </div>
      )}
      <div className={look.small}>
        {span(offer.hands_on_minutes)} hands-on · ready in {span(offer.minutes)}
        {offer.rounds > 1 && ` · in ${offer.rounds} rounds`}
        {offer.keeps && ` · ${offer.keeps}`}
      </div>
      {!offer.in_time && <div className={look.buy}>not ready by then</div>}
      {offer.lacks.map((lack) => (
        <div key={lack} className={look.buy}>
          {lack}
        </div>
      ))}
      <Trouble error={create.error ?? undefined} />
      <Button
        variant="contained"
        disabled={create.isPending}
        aria-label={`Make ${offer.drink.name}`}
        onClick={() => void save()}
        sx={{ mt: 1.25 }}
      >
        Make this
      </Button>
    </li>
  );
}
