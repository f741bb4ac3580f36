import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { BreakKey } from "./BreakKey";
import { Pourer, SetTable } from "./Pourer";
import { type TastingView, useSheet, useTasterActions } from "./queries";
import { Remark } from "./Remark";
import { Glasses, Part, Title } from "./Table";
import { firstSeat, Turn } from "./Turn";
import { useSay } from "./useSay";
import { percent } from "./words";

/** One glass is chosen, again and again: two drinks compared, or the stairs of small differences. */
export default function ChoiceTasting({ view }: { view: TastingView }) {
  const { about } = view;
  const compare = "compare" in about ? about.compare : undefined;
  const tongue = "tongue" in about ? about.tongue : undefined;
  const title = view.name;
  if (view.stage === "pouring")
    return (
      <>
        <Title
          under={compare ? compare.prospect.words : "Someone else pours and keeps this sheet."}
        >
          {title}
        </Title>
        {tongue && <TongueJugs tongue={tongue} />}
        <Pourer view={view} />
      </>
    );
  if (view.stage === "over")
    return (
      <>
        <Title under="The glasses are revealed.">{title}</Title>
        {view.tells.verdict && <Verdict verdict={view.tells.verdict} />}
        {view.tells.notices && tongue && (
          <Noticed view={view} notices={view.tells.notices} quality={tongue.stairs.quality} />
        )}
        {view.key.length > 0 && (
          <Part name="What was in the glasses">
            <SetTable view={view} lines={view.key} />
          </Part>
        )}
      </>
    );
  return <Choosing view={view} title={title} compare={compare} tongue={tongue} />;
}

function TongueJugs({ tongue }: { tongue: Schemas["TongueAbout"] }) {
  return (
    <Part name="Two jugs">
      {tongue.jugs.map((jug) => (
        <Box key={jug.name}>
          <b>{jug.name}</b>:{" "}
          {jug.filled_with.map((t) => `${t.amount} ${t.name.toLowerCase()}`).join(" + ")}
        </Box>
      ))}
    </Part>
  );
}

interface ChoosingProps {
  view: TastingView;
  title: string;
  compare: Schemas["CompareAbout"] | undefined;
  tongue: Schemas["TongueAbout"] | undefined;
}

function Choosing({ view, title, compare, tongue }: ChoosingProps) {
  const [seat, setSeat] = useState(() => firstSeat(view));
  const [pouring, setPouring] = useState(tongue !== undefined);
  const { say, wrong, waits } = useSay(view.id);
  const mine = view.seats[seat]!;
  const method = compare?.compared.method ?? tongue!.stairs.method;
  const question = {
    triangle: "Two are the same. Touch the odd one.",
    duo_trio: "The first is the reference. Touch the one that matches it.",
    pairs: `Touch the one that is ${compare ? compare.compared.more : tongue?.stairs.quality === "acidity" ? "more sour" : "sweeter"}.`,
  }[method];
  const known = method === "duo_trio" ? 1 : 0;
  const all = view.seats.every(
    (one) => one.finished || !view.tasters.some((t) => t.id === one.taster),
  );
  return (
    <>
      <Title under={mine.finished ? "Nothing left to taste." : question}>{title}</Title>
      <Turn view={view} seat={seat} onSeat={setSeat} />
      {!mine.finished && tongue && pouring && (
        <PourTwo
          view={view}
          taster={mine.taster}
          done={mine.done}
          onPoured={() => setPouring(false)}
        />
      )}
      {!mine.finished && !(tongue && pouring) && (
        <Glasses
          glasses={mine.glasses.map((glass, i) => ({
            key: glass.code,
            label: i < known ? "known" : glass.code,
            liquid: colour(tongue ? "plain" : "lemon"),
            fill: 0.55,
          }))}
        >
          {(index) =>
            index < known ? null : (
              <Button
                variant="contained"
                disabled={waits}
                sx={{ mt: 1.5, minHeight: 56, minWidth: 96, fontSize: 18 }}
                onClick={() =>
                  say({ chose: { taster: mine.taster, code: mine.glasses[index]!.code } }, () =>
                    setPouring(tongue !== undefined),
                  )
                }
              >
                {mine.glasses[index]!.code}
              </Button>
            )
          }
        </Glasses>
      )}
      <Box sx={{ mt: 3, display: "flex", flexWrap: "wrap", gap: 1.5, alignItems: "center" }}>
        <BreakKey view={view} />
        <Box role="status" sx={{ color: colour("muted") }}>
          {mine.done} tasted{mine.of ? ` of ${mine.of}` : ""}
          {all && ", everyone has finished"}
        </Box>
      </Box>
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop"), mt: 1 }}>
          {wrong}
        </Box>
      )}
      {compare && <Remark view={view} taster={mine.taster} />}
    </>
  );
}

/** On the stairs each pair is poured anew: this is for the one who pours. */
function PourTwo(props: { view: TastingView; taster: string; done: number; onPoured: () => void }) {
  const { view, taster, done, onPoured } = props;
  const { data: sheet, error } = useSheet(view.id, done, true);
  const glasses = sheet?.stairs.find((one) => one.taster === taster);
  const lines = sheet?.key.filter((line) => line.taster === taster) ?? [];
  const jugs = ["plain", "strong"];
  return (
    <Part name="For the person pouring">
      {error && <Box role="alert">{error.message}</Box>}
      {glasses &&
        lines.map((line) => {
          const glass = line.glass === 1 ? glasses.stronger : glasses.plain;
          return (
            <Box key={line.code} sx={{ fontSize: 18, py: 0.5 }}>
              <b>{line.code}</b>:{" "}
              {glass.pours.map((pour) => `${pour.amount} of the ${jugs[pour.jug]} jug`).join(" + ")}
            </Box>
          );
        })}
      <Button variant="contained" onClick={onPoured} sx={{ mt: 1.5, minHeight: 56, px: 3 }}>
        Poured: pass it on
      </Button>
    </Part>
  );
}

function Verdict({ verdict }: { verdict: Schemas["Verdict"] }) {
  const said = {
    different: "They are different",
    alike: "They are the same",
    not_shown: "No clear difference",
  }[verdict.finding];
  return (
    <Box sx={{ mb: 3 }} data-testid="verdict">
      <Box sx={{ ...displayFont, fontSize: 34, fontWeight: 700, letterSpacing: "-0.02em" }}>
        {said}
      </Box>
      <Box sx={{ fontSize: 17, maxWidth: 640, mt: 0.5 }}>{verdict.words}</Box>
    </Box>
  );
}

function Noticed(props: {
  view: TastingView;
  notices: Schemas["Notices"];
  quality: Schemas["Quality"];
}) {
  const { view, notices, quality } = props;
  const { change } = useTasterActions();
  const who = view.tasters[0];
  const field = quality === "sweetness" ? "notices_sweet" : "notices_sour";
  const kept = who?.taster[field]?.part === notices.part;
  return (
    <Box sx={{ mb: 3 }}>
      <Box
        data-figure="notices"
        sx={{ ...displayFont, fontSize: 46, fontWeight: 700, letterSpacing: "-0.02em" }}
      >
        {percent(notices.part)}
      </Box>
      <Box sx={{ fontSize: 17, maxWidth: 640 }}>
        {who?.taster.name} notices a difference of {percent(notices.part)} of {quality}, likely{" "}
        {percent(notices.low)} to {percent(notices.high)}: they notice this difference 3 times out
        of 4.
      </Box>
      {who && (
        <Button
          variant="contained"
          sx={{ mt: 2, minHeight: 52 }}
          disabled={kept || change.isPending}
          onClick={() => change.mutate({ id: who.id, body: { ...who.taster, [field]: notices } })}
        >
          {kept ? "In use" : "Use this from now on"}
        </Button>
      )}
    </Box>
  );
}
