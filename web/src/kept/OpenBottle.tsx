import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { BottleMove, OpenBottle as Bottle, Schemas } from "../api/client";
import { useShelfActions } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { useBegin } from "../api/useBegin";
import { volume } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { useBottle, useMoveBottle } from "./queries";
import { date, places } from "./words";
import { useRead } from "../ui/reading";

type Away = Schemas["Away"];

const reasons: [Away, string][] = [
  ["went_off", "It spoiled"],
  ["over_its_date", "It was past its date"],
  ["not_liked", "We didn’t like it"],
  ["spilt", "It was spilled"],
];

/** A bottle: what it is good for, and what happens to it. */
export function OpenBottle({ id }: { id: string }) {
  const { data, error } = useBottle(id);
  if (error) return <Trouble error={error} />;
  return data ? <Opened bottle={data} /> : null;
}

function Opened({ bottle }: { bottle: Bottle }) {
  const { state } = bottle;
  const move = useMoveBottle(bottle.id);
  const [asking, setAsking] = useState<"pour" | "tip" | undefined>();
  const panel = useRef<HTMLElement>(null);
  // On a phone it opens above the shelves, which may be a long way up.
  useEffect(() => {
    panel.current?.scrollIntoView({ block: "nearest" });
  }, []);
  // An answer closes what it was asked with, and nothing that was opened meanwhile.
  const say = (what: BottleMove) =>
    move.mutate(what, {
      onSuccess: () => setAsking((now) => (now === asking ? undefined : now)),
    });
  const last = bottle.moves
    .map((m, of) => ({ m, of }))
    .filter(({ m, of }) => stands(bottle, m, of))
    .at(-1);
  return (
    <Box
      component="section"
      ref={panel}
      aria-label={bottle.name}
      sx={{
        border: `2px solid ${colour("cobalt")}`,
        borderRadius: "16px",
        bgcolor: colour("enamel"),
        px: 2.5,
        py: 2,
      }}
    >
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1 }}>
        <Box component="h2" sx={{ ...displayFont, fontSize: 23, fontWeight: 700, m: 0, flex: 1 }}>
          {bottle.name}
        </Box>
        <Button component={Link} to="/kept" sx={{ minWidth: 0, mr: -1 }}>
          Close
        </Button>
      </Box>
      <Box sx={{ fontSize: 14, color: colour("muted") }}>
        added {date(bottle.put_at)} · {bottle.brix.toFixed(0)} °Bx
        {bottle.alcohol >= 0.5 && ` · ${bottle.alcohol.toFixed(1)} % vol, for adults`}
        {bottle.batch && (
          <>
            {" · "}
            <Link to={`/make/${bottle.batch}`}>its batch</Link>
          </>
        )}
      </Box>
      {state.gone ? (
        <Box sx={{ mt: 1.5, fontSize: 17 }}>This bottle is empty.</Box>
      ) : (
        <Box sx={{ mt: 1, fontSize: 17 }}>
          <strong>{volume(state.ml)}</strong>,{" "}
          <Box
            component="span"
            sx={{
              color: colour(state.soon || state.over ? "stop" : "ink"),
              fontWeight: state.soon || state.over ? 600 : 400,
            }}
          >
            {bottle.due}
          </Box>
          {state.over ? "" : ` (${date(bottle.use_by)})`}
        </Box>
      )}
      {state.over && !state.gone && (
        <Box sx={{ mt: 0.5 }}>Discard it: it can spoil before you see mould.</Box>
      )}
      {bottle.uses.length > 0 && (
        <Box component="section" aria-label="Use it up" sx={{ mt: 2 }}>
          <Box component="h3" sx={{ fontSize: 15.5, fontWeight: 700, m: 0 }}>
            Use it up
          </Box>
          {bottle.uses.map((use) => (
            <Use key={use.message} use={use} onFreeze={() => say({ moved: { to: "freezer" } })} />
          ))}
        </Box>
      )}
      {asking === "pour" && (
        <Pour most={state.ml} onPour={(ml, what_for) => say({ poured: { ml, what_for } })} />
      )}
      {asking === "tip" && (
        <Box role="group" aria-label="Why" sx={{ display: "grid", gap: 1, mt: 2 }}>
          {reasons.map(([why, text]) => (
            <Button key={why} variant="outlined" onClick={() => say({ tipped: { why } })}>
              {text}
            </Button>
          ))}
        </Box>
      )}
      {!state.gone && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 2 }}>
          <Button
            variant="outlined"
            aria-expanded={asking === "pour"}
            onClick={() => setAsking(asking === "pour" ? undefined : "pour")}
          >
            Pour some
          </Button>
          {state.opened == null && state.place !== "freezer" && (
            <Button variant="outlined" onClick={() => say("opened")}>
              Opened
            </Button>
          )}
          {places
            .filter(([place]) => place !== state.place)
            .map(([place, name]) => (
              <Button key={place} variant="outlined" onClick={() => say({ moved: { to: place } })}>
                To the {name.toLowerCase()}
              </Button>
            ))}
          <Button variant="outlined" onClick={() => say("emptied")}>
            Empty
          </Button>
          <Button
            variant="outlined"
            aria-expanded={asking === "tip"}
            onClick={() => setAsking(asking === "tip" ? undefined : "tip")}
          >
            Discarded
          </Button>
        </Box>
      )}
      {last && (
        <Button onClick={() => say({ taken_back: { of: last.of } })} sx={{ mt: 1, ml: -2 }}>
          Undo: {said(last.m.what)}
        </Button>
      )}
      <Trouble error={move.error ?? undefined} />
      <Box component="ul" sx={{ mt: 1.5, mb: 0, pl: 2.25, fontSize: 13.5, color: colour("muted") }}>
        {state.why.map((why) => (
          <li key={why}>{why}</li>
        ))}
      </Box>
    </Box>
  );
}

/** Whether an entry still counts and can be undone. */
function stands(bottle: Bottle, m: Bottle["moves"][number], of: number): boolean {
  const undoes = typeof m.what === "object" && "taken_back" in m.what;
  return !undoes && !bottle.undone.includes(of);
}

function said(what: BottleMove): string {
  if (what === "opened") return "opened";
  if (what === "emptied") return "empty";
  if ("poured" in what) return `poured ${volume(what.poured.ml)}`;
  if ("moved" in what) return `to the ${what.moved.to}`;
  if ("tipped" in what) return "discarded";
  return "";
}

/** One thing that a bottle is good for; what makes a drink of it can be made, or put on the shelf. */
function Use({ use, onFreeze }: { use: Schemas["Use"]; onFreeze: () => void }) {
  const begin = useBegin(use.of ?? "");
  const { create } = useShelfActions();
  const go = useNavigate();
  const { drink } = use;
  return (
    <Box
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        gap: 1,
        py: 0.5,
        borderTop: `1px solid ${colour("hairline")}`,
      }}
    >
      <Box sx={{ flex: "1 1 200px", fontSize: 15 }}>{use.message}</Box>
      {use.kind === "freezes" && <Button onClick={onFreeze}>Freeze it</Button>}
      {drink && use.of && (
        <Button disabled={begin.isPending} onClick={() => begin.mutate({ drink })}>
          Use this
        </Button>
      )}
      {drink && !use.of && (
        <Button
          onClick={() =>
            create.mutate(drink, { onSuccess: (made) => void go(`/drinks/${made.id}`) })
          }
        >
          Save as a drink
        </Button>
      )}
      <Trouble error={begin.error ?? create.error ?? undefined} />
    </Box>
  );
}

/** How much was poured off, in touches or typed. */
function Pour({ most, onPour }: { most: number; onPour: (ml: number, what: string) => void }) {
  const [ml, setMl] = useState("");
  const [what, setWhat] = useState("");
  const { number: amount, understood, wrong } = useRead("millilitres", ml);
  return (
    <Box
      component="form"
      sx={{ display: "grid", gap: 1, mt: 2 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (amount > 0) onPour(amount, what);
      }}
    >
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        {[30, 50, 100, 250]
          .filter((step) => step <= most)
          .map((step) => (
            <Button key={step} variant="outlined" onClick={() => setMl(`${step} ml`)}>
              {volume(step)}
            </Button>
          ))}
      </Box>
      <Box sx={{ display: "flex", gap: 1 }}>
        <TextField
          size="small"
          label="How much, ml"
          value={ml}
          error={wrong !== undefined}
          helperText={wrong ?? understood}
          onChange={(event) => setMl(event.target.value)}
          sx={{ width: 150 }}
        />
        <TextField
          size="small"
          label="What for"
          value={what}
          onChange={(event) => setWhat(event.target.value)}
          sx={{ flex: 1 }}
        />
        <Button type="submit" variant="contained" disabled={!(amount > 0)}>
          Pour
        </Button>
      </Box>
    </Box>
  );
}
