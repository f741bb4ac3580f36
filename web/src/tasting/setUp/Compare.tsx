import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useQuestion } from "../../api/ask";
import { answer, api, type Schemas } from "../../api/client";
import { colour } from "../../ui/theme";
import { useDrink, WhichDrink, WhoTastes } from "../choose";
import { Few, Part, Room, Title } from "../Table";
import { Begin, Choices, Line, TwoColumns, useSetUp } from "./parts";
import { keys } from "../../api/keys";

const methods = [
  ["triangle", "Triangle"],
  ["pairs", "Pair"],
  ["duo_trio", "Duo–trio"],
] as const;

const methodWords = {
  triangle: "Three glasses, two alike: which is the odd one?",
  pairs: "Two glasses: which has more of something?",
  duo_trio: "A reference, then two glasses: which one matches it?",
};

/** Two drinks that are told apart, or not. */
export function Compare() {
  const [method, setMethod] = useState<Schemas["Method"]>("triangle");
  const [sides, setSides] = useState([
    { name: "", drink: "" },
    { name: "", drink: "" },
  ]);
  const [more, setMore] = useState("sweeter");
  const [tasters, setTasters] = useState<string[]>([]);
  const [times, setTimes] = useState(1);
  const drinks = [useDrink(sides[0]!.drink).data, useDrink(sides[1]!.drink).data];
  const { begin, wrong, waits } = useSetUp();
  const tastings = tasters.length * times;
  const { data: prospect } = useQuestion(keys.prospect(method, tastings), (signal) =>
    answer(api.POST("/api/compute/prospect", { body: { method, tastings }, signal })),
  );
  const side = (i: number) => {
    const drink = sides[i]!.drink ? drinks[i] : undefined;
    return {
      name: sides[i]!.name.trim() || (drink?.name ?? ""),
      drink: drink ?? null,
    };
  };
  const change = (i: number, part: Partial<{ name: string; drink: string }>) =>
    setSides((old) => old.map((s, at) => (at === i ? { ...s, ...part } : s)));
  const named = [0, 1].every((i) => side(i).name);
  return (
    <Room>
      <Title under="Does it taste different from last year’s, from the one with less sugar, from the one you want to match?">
        Compare two drinks
      </Title>
      <TwoColumns left="minmax(340px, 520px)">
        <Choices>
          {["The first", "The second"].map((label, i) => (
            <Line key={label} label={label}>
              <Box sx={{ display: "grid", gap: 1, gridTemplateColumns: { sm: "1fr 1fr" } }}>
                <WhichDrink
                  label={`${label}: from the shelf`}
                  none="another one"
                  chosen={sides[i]!.drink}
                  onChoose={(drink) => change(i, { drink })}
                />
                <TextField
                  size="small"
                  label={`${label}: called`}
                  value={sides[i]!.name}
                  placeholder={side(i).name}
                  onChange={(event) => change(i, { name: event.target.value })}
                />
              </Box>
            </Line>
          ))}
          <Line label="How?">
            <Few label="How" options={methods} chosen={method} onChoose={setMethod} />
            <Box sx={{ color: colour("muted") }}>{methodWords[method]}</Box>
            {method === "pairs" && (
              <TextField
                size="small"
                label="Which is"
                value={more}
                onChange={(event) => setMore(event.target.value)}
                sx={{ maxWidth: 240 }}
              />
            )}
          </Line>
          <Line label="Who is tasting?">
            <WhoTastes chosen={tasters} onChoose={setTasters} />
          </Line>
          <Line label="How many times each?">
            <Few
              label="Times each"
              options={[1, 2, 3, 4, 6].map((n) => [n, String(n)] as const)}
              chosen={times}
              onChoose={setTimes}
            />
          </Line>
          <Begin
            act="Set it up"
            missing={!named ? "Name both drinks." : tasters.length === 0 && "Choose the tasters."}
            can={named && tasters.length > 0 && !waits}
            wrong={wrong}
            onBegin={() =>
              begin({
                name: `${side(0).name} and ${side(1).name}`,
                what: {
                  compare: {
                    method,
                    first: side(0),
                    second: side(1),
                    more: method === "pairs" ? more : "",
                    times,
                    sample_ml: 60,
                  },
                },
                tasters,
                blind: true,
              })
            }
          />
        </Choices>
        <Box sx={{ minWidth: 0 }}>
          {prospect && (
            <Part name="What it can find">
              <Box sx={{ fontSize: 17, maxWidth: 560 }}>
                {tastings > 0 ? prospect.words : "Choose tasters to see what this test can find."}
              </Box>
              <Box
                component="table"
                sx={{
                  mt: 2,
                  borderCollapse: "collapse",
                  "& td, & th": {
                    textAlign: "left",
                    py: 0.75,
                    pr: 3,
                    borderTop: `1px solid ${colour("hairline")}`,
                    fontWeight: 500,
                  },
                }}
              >
                <thead>
                  <tr>
                    <th>A difference that is</th>
                    <th>takes</th>
                  </tr>
                </thead>
                <tbody>
                  {prospect.takes.map((one) => (
                    <tr key={one.what}>
                      <td>{one.what}</td>
                      <td>
                        {one.tastings == null ? "too small to taste" : `${one.tastings} tastings`}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </Box>
              <Box sx={{ color: colour("muted"), mt: 1.5, maxWidth: 560 }}>
                Enough to find the difference 4 times out of 5, with 1 false result in 20.
              </Box>
            </Part>
          )}
        </Box>
      </TwoColumns>
    </Room>
  );
}
