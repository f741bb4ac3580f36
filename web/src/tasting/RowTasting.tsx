import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { Radios } from "../ui/Radios";
import { colour } from "../ui/theme";
import { BreakKey } from "./BreakKey";
import { Pourer } from "./Pourer";
import type { Felt, Seat, TastingView } from "./queries";
import { Remark } from "./Remark";
import { RowTells } from "./RowTells";
import { Glasses, Title } from "./Table";
import { firstSeat, Turn } from "./Turn";
import { useSay } from "./useSay";
import { ends, felts, glassesInWords } from "./words";

interface RowTastingProps {
  view: TastingView;
  row: Schemas["RowAbout"];
  /** They are put in order instead of answered. */
  order?: boolean;
}

/** A row of glasses on the table: poured, tasted, and what it tells. */
export function RowTasting({ view, row, order = false }: RowTastingProps) {
  const title = `${glassesInWords(row.glasses)}, ${ends(row.moves)}`;
  const what = `${row.drink}. `;
  if (view.stage === "pouring")
    return (
      <>
        <Title
          under={`${what}For the person pouring: hide this sheet when all glasses are poured.`}
        >
          {title}
        </Title>
        <Pourer view={view} />
      </>
    );
  if (view.stage === "over")
    return (
      <>
        <Title under={`${what}The glasses are revealed.`}>{title}</Title>
        <RowTells view={view} row={row} />
      </>
    );
  return (
    <>
      <Title
        under={`${what}Taste from left to right, with a sip of water between.${view.stage === "sealed" ? "  The contents stay hidden." : ""}`}
      >
        {title}
      </Title>
      {order ? <PutInOrder view={view} row={row} /> : <Answers view={view} row={row} />}
      {view.stage === "open" && view.seats.some((s) => s.done > 0) && (
        <RowTells view={view} row={row} />
      )}
    </>
  );
}

function Answers({ view, row }: { view: TastingView; row: Schemas["RowAbout"] }) {
  const [seat, setSeat] = useState(() => firstSeat(view));
  const { say, wrong } = useSay(view.id);
  const small = useMediaQuery("(max-width: 700px)");
  const mine = view.seats[seat]!;
  // Where the glasses leave no room for answers that a finger can hit, they are answered one at a time.
  const single = small || mine.glasses.length > 4;
  const complete = (glass: Seat["glasses"][number]) =>
    glass.liked != null && (row.words.length === 0 || glass.felt != null);
  const next = mine.glasses.findIndex((glass) => !complete(glass));
  const [chosen, setChosen] = useState<number | undefined>();
  const turn = chosen ?? (next < 0 ? mine.glasses.length - 1 : next);
  const answered = (index: number, part: { felt?: Felt; liked?: number }) => {
    const glass = mine.glasses[index]!;
    say({ answered: { taster: mine.taster, code: glass.code, felt: null, liked: null, ...part } });
  };
  const who = view.tasters.find((t) => t.id === mine.taster)?.taster.name ?? "";
  const all = view.seats.every(
    (one) => one.finished || !view.tasters.some((t) => t.id === one.taster),
  );
  const done = mine.glasses.every(complete);
  const following = view.seats.findIndex(
    (one, i) => i !== seat && !one.finished && view.tasters.some((t) => t.id === one.taster),
  );
  const followingName = view.tasters.find((t) => t.id === view.seats[following]?.taster)?.taster
    .name;
  const under = (index: number) => (
    <Answer
      words={row.words}
      glass={mine.glasses[index]!}
      faint={index > turn && !complete(mine.glasses[index]!)}
      layout={small ? "phone" : single ? "single" : "column"}
      onAnswer={(part) => {
        setChosen(undefined);
        answered(index, part);
      }}
    />
  );
  return (
    <Box>
      <Turn
        view={view}
        seat={seat}
        onSeat={(index) => {
          setSeat(index);
          setChosen(undefined);
        }}
      />
      <Glasses
        turn={done && chosen === undefined ? -1 : turn}
        height={small ? 84 : 172}
        onTouch={single ? setChosen : undefined}
        glasses={mine.glasses.map((glass, index) => ({
          key: glass.code,
          label: glass.code,
          liquid: row.colour,
          fill: 0.6,
          faint: index > turn && !complete(glass),
          spoken: `Glass ${glass.code}${complete(glass) ? ", answered" : ""}`,
        }))}
      >
        {single ? undefined : under}
      </Glasses>
      {single && under(turn)}
      <Box
        sx={{ mt: 3, display: "flex", flexWrap: "wrap", gap: 1.5, alignItems: "center" }}
        role="status"
      >
        {done && following >= 0 && (
          <Button
            variant="contained"
            sx={{ minHeight: 52, px: 3, fontSize: 17 }}
            onClick={() => setSeat(following)}
          >
            {followingName} tastes too
          </Button>
        )}
        {view.stage === "sealed" && <BreakKey view={view} />}
        <Box sx={{ color: colour("muted") }}>
          {all
            ? "Everyone has tasted."
            : done
              ? `${who} has tasted all of them.`
              : `${who}: ${mine.glasses.length - mine.glasses.filter(complete).length} to go.`}
        </Box>
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), mt: 1 }}>
          {wrong}
        </Box>
      )}
      <Remark view={view} taster={mine.taster} />
    </Box>
  );
}

/** Two touches a glass: a word, and how good. */
function Answer(props: {
  words: string[];
  glass: Seat["glasses"][number];
  faint: boolean;
  /** Under its glass, or one for all glasses: below each other on a phone. */
  layout: "phone" | "single" | "column";
  onAnswer: (part: { felt?: Felt; liked?: number }) => void;
}) {
  const { words, glass, faint, layout, onAnswer } = props;
  const wide = layout !== "column";
  return (
    <Box
      sx={{ px: { xs: 0, sm: layout === "single" ? 0 : 1.5 }, maxWidth: wide ? 860 : undefined }}
    >
      {words.length > 0 && (
        <Radios
          label={`Glass ${glass.code}: how is it`}
          sx={{
            display: "grid",
            gap: wide ? 0.75 : 0.5,
            gridTemplateColumns: layout === "phone" ? "1fr" : "repeat(5, minmax(0, 1fr))",
            mt: 1.5,
          }}
        >
          {felts.map((felt, index) => {
            const here = glass.felt === felt;
            return (
              <Box
                key={felt}
                component="button"
                type="button"
                role="radio"
                aria-checked={here}
                aria-label={words[index]}
                title={words[index]}
                onClick={() => onAnswer({ felt })}
                sx={{
                  font: "inherit",
                  fontSize: 17,
                  fontWeight: 600,
                  minHeight: wide ? 52 : 46,
                  p: 0,
                  borderRadius: "12px",
                  cursor: "pointer",
                  color: colour(here ? "onCobalt" : "ink"),
                  bgcolor: colour(here ? "cobalt" : "enamel"),
                  border: `2px solid ${colour(here ? "cobalt" : faint ? "hairline" : "muted")}`,
                }}
              >
                {wide && words[index]}
              </Box>
            );
          })}
        </Radios>
      )}
      {words.length > 0 && !wide && (
        <Box
          aria-hidden
          sx={{
            display: "flex",
            justifyContent: "space-between",
            fontSize: 13,
            color: colour(faint ? "muted" : "ink"),
            mt: 0.5,
          }}
        >
          <span>{words[0]}</span>
          <span>{words[4]}</span>
        </Box>
      )}
      <Radios
        label={`Glass ${glass.code}: how good, 1 to 9`}
        sx={{
          display: "grid",
          // Two lines on a phone: nine in one are narrower than a finger.
          gridTemplateColumns: `repeat(${layout === "phone" ? 5 : 9}, minmax(0, 1fr))`,
          mt: 1.25,
        }}
      >
        {Array.from({ length: 9 }, (_, index) => {
          const filled = (glass.liked ?? 0) > index;
          return (
            <Box
              key={index}
              component="button"
              type="button"
              role="radio"
              aria-checked={glass.liked === index + 1}
              aria-label={`${index + 1}`}
              onClick={() => onAnswer({ liked: index + 1 })}
              sx={{
                height: 44,
                p: 0,
                border: 0,
                bgcolor: "transparent",
                cursor: "pointer",
                display: "grid",
                placeItems: "center",
              }}
            >
              <Box
                sx={{
                  width: wide ? 34 : 16,
                  height: wide ? 34 : 16,
                  borderRadius: "50%",
                  display: "grid",
                  placeItems: "center",
                  fontSize: 15,
                  fontWeight: 600,
                  border: `1.6px solid ${colour(faint ? "muted" : "ink")}`,
                  bgcolor: filled ? colour("ink") : "transparent",
                  color: colour(filled ? "enamel" : "ink"),
                }}
              >
                {wide && index + 1}
              </Box>
            </Box>
          );
        })}
      </Radios>
      <Box
        aria-hidden
        sx={{
          textAlign: "left",
          fontSize: 13,
          color: colour(faint ? "muted" : "ink"),
          mt: wide ? 0 : -0.75,
        }}
      >
        {wide ? "1 is poor, 9 is excellent" : "poor to excellent"}
      </Box>
    </Box>
  );
}

function PutInOrder({ view, row }: { view: TastingView; row: Schemas["RowAbout"] }) {
  const [seat, setSeat] = useState(() => firstSeat(view));
  const { say, wrong, waits } = useSay(view.id);
  const mine = view.seats[seat]!;
  const [order, setOrder] = useState<string[]>([]);
  const left = mine.glasses.filter((glass) => !order.includes(glass.code));
  const placed = mine.finished ? mine.ordered : order;
  const [from, to] = row.words.length > 0 ? [row.words[0]!, row.words[4]!] : ["little", "much"];
  return (
    <Box>
      <Turn
        view={view}
        seat={seat}
        onSeat={(index) => {
          setSeat(index);
          setOrder([]);
        }}
      />
      {!mine.finished && (
        <>
          <Glasses
            glasses={left.map((glass) => ({
              key: glass.code,
              label: glass.code,
              liquid: row.colour,
              fill: 0.6,
            }))}
          >
            {(index) => (
              <Button
                variant="outlined"
                sx={{ mt: 1 }}
                onClick={() => setOrder([...order, left[index]!.code])}
              >
                {order.length === 0 ? from.replace("too ", "most ") : "next"}
              </Button>
            )}
          </Glasses>
        </>
      )}
      <Box sx={{ mt: 2, fontSize: 20 }} role="status">
        {placed.length === 0
          ? `Which is the ${from.replace("too ", "")}est? Touch it; then the next.`
          : `${from.replace("too ", "")} – ${placed.join(", ")} – ${to.replace("too ", "")}`}
      </Box>
      <Box sx={{ mt: 2, display: "flex", flexWrap: "wrap", gap: 1 }}>
        {!mine.finished && (
          <>
            <Button
              variant="contained"
              disabled={left.length > 0 || waits}
              onClick={() => say({ ordered: { taster: mine.taster, codes: order } })}
              sx={{ minHeight: 52 }}
            >
              Confirm this order
            </Button>
            <Button disabled={order.length === 0} onClick={() => setOrder(order.slice(0, -1))}>
              Undo
            </Button>
          </>
        )}
        {view.stage === "sealed" && <BreakKey view={view} />}
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), mt: 1 }}>
          {wrong}
        </Box>
      )}
    </Box>
  );
}
