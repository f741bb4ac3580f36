import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { useSettings } from "../../api/queries";
import { WhoTastes } from "../choose";
import { Few, Room, Title } from "../Table";
import { Begin, Line, useSetUp } from "./parts";

const trainings = [
  ["tongue", "Small differences"],
  ["guess", "Guess the balance"],
  ["order", "Sort glasses"],
] as const;

const trainingWords = {
  tongue:
    "Pairs or triangles of glasses get closer and closer until we know your smallest noticeable difference. After that we won’t suggest corrections you can’t taste.",
  guess: "Taste a glass, guess its place on the map, then see the answer. Someone else pours.",
  order: "A row of hidden glasses to sort.",
};

/** Trying a tongue. */
export function Train() {
  const [what, setWhat] = useState<(typeof trainings)[number][0]>("tongue");
  const [quality, setQuality] = useState<Schemas["Quality"]>("sweetness");
  const [method, setMethod] = useState<"pairs" | "triangle">("pairs");
  const [tasters, setTasters] = useState<string[]>([]);
  const { settings } = useSettings();
  const { begin, wrong, waits } = useSetUp();
  const go = useNavigate();
  return (
    <Room>
      <Title>Train your taste</Title>
      <Box sx={{ display: "grid", gap: 2.25, maxWidth: 620 }}>
        <Few label="What" options={trainings} chosen={what} onChoose={setWhat} />
        <Box sx={{ fontSize: 17 }}>{trainingWords[what]}</Box>
        {what === "tongue" && (
          <>
            <Line label="Of which taste?">
              <Few
                label="Taste"
                options={[
                  ["sweetness", "sweetness"],
                  ["acidity", "acidity"],
                ]}
                chosen={quality}
                onChoose={setQuality}
              />
            </Line>
            <Line label="How?">
              <Few
                label="How"
                options={[
                  ["pairs", "pairs"],
                  ["triangle", "triangles"],
                ]}
                chosen={method}
                onChoose={setMethod}
              />
            </Line>
          </>
        )}
        {what === "order" ? (
          <Button
            variant="contained"
            onClick={() => void go("/tasting/new/row?order")}
            sx={{ justifySelf: "start", minHeight: 56, px: 4, fontSize: 18 }}
          >
            Choose the row
          </Button>
        ) : (
          <>
            <Line label="Who?">
              <WhoTastes chosen={tasters} onChoose={setTasters} single={what === "tongue"} />
            </Line>
            <Begin
              act="Set it up"
              can={tasters.length > 0 && !waits}
              wrong={wrong}
              onBegin={() =>
                begin({
                  name: what === "tongue" ? `Small differences of ${quality}` : "Guess the balance",
                  what:
                    what === "tongue"
                      ? { tongue: { quality, method } }
                      : { guess: { sour: "lemon_juice", units: settings.units ?? "as_written" } },
                  tasters,
                  blind: true,
                })
              }
            />
          </>
        )}
      </Box>
    </Room>
  );
}
