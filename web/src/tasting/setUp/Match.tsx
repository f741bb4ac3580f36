import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { colour } from "../../ui/theme";
import { useDrink, WhichDrink, WhoTastes } from "../choose";
import { Room, Title } from "../Table";
import { Begin, Line, useSetUp } from "./parts";
import { Figures } from "../../ui/Figures";
import { numbersIn } from "../../ui/reading";

/** A drink that is to be matched. */
export function Match() {
  const [params] = useSearchParams();
  const [drinkId, setDrink] = useState(params.get("drink") ?? "");
  const { data: drink } = useDrink(drinkId);
  const [name, setName] = useState("");
  const [read, setRead] = useState({ brix: "", acidity: "", ph: "", alcohol: "" });
  const [tasters, setTasters] = useState<string[]>([]);
  const { begin, wrong, waits } = useSetUp();
  const [unread, setUnread] = useState<string | undefined>();
  /** What was measured, as it stands in the fields when it is begun. */
  const start = async () => {
    if (!drink) return;
    const { numbers, wrong } = await numbersIn([read.brix, read.acidity, read.ph, read.alcohol]);
    setUnread(wrong);
    if (wrong) return;
    const [brix, acidity, ph, alcohol] = numbers;
    begin({
      name: `${drink.name} to match ${name.trim()}`,
      what: {
        match: {
          drink,
          reference: {
            name: name.trim(),
            brix: brix ?? null,
            acidity: acidity ?? null,
            ph: ph ?? null,
            alcohol: alcohol ?? null,
            beside: [],
          },
        },
      },
      tasters,
      blind: false,
    });
  };
  return (
    <Room>
      <Title under="Measure it and taste it beside yours to set a target. Then change yours, pour both and compare again.">
        Match a drink
      </Title>
      <Box sx={{ display: "grid", gap: 2.25, maxWidth: 560 }}>
        <Line label="Yours">
          <WhichDrink label="Drink" chosen={drinkId} onChoose={setDrink} />
        </Line>
        <Line label="Drink to match">
          <TextField
            size="small"
            label="Name"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Box sx={{ display: "grid", gap: 1, gridTemplateColumns: "1fr 1fr" }}>
            <Figures
              of={[
                ["brix", "°Brix"],
                ["acidity", "acidity, %"],
                ["ph", "pH"],
                ["alcohol", "alcohol, % vol"],
              ]}
              typed={read}
              onType={setRead}
            />
          </Box>
          <Box sx={{ color: colour("muted") }}>
            Leave blank what you haven’t measured. Stir out any fizz first.
          </Box>
        </Line>
        <Line label="Who is tasting?">
          <WhoTastes chosen={tasters} onChoose={setTasters} />
        </Line>
        <Begin
          act="Start"
          can={drink !== undefined && name.trim() !== "" && tasters.length > 0 && !waits}
          wrong={unread ?? wrong}
          onBegin={() => void start()}
        />
      </Box>
    </Room>
  );
}
