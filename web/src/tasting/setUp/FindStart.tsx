import Box from "@mui/material/Box";
import { useState } from "react";
import { useSettings } from "../../api/queries";
import { WhoTastes } from "../choose";
import { Begin, Line, useSetUp } from "./parts";
import { Few, Room, Title } from "../Table";
import { ThreeJugs } from "../ThreeJugs";

const sours = [
  ["lemon_juice", "lemons"],
  ["lime_juice", "limes"],
  ["citric_acid", "citric acid"],
] as const;

/** The first thing that a new user may do: without any drink on the shelf. */
export default function FindStart() {
  const [tasters, setTasters] = useState<string[]>([]);
  const [sour, setSour] = useState<(typeof sours)[number][0]>("lemon_juice");
  const { settings } = useSettings();
  const { begin, wrong, waits } = useSetUp();
  return (
    <Room>
      <Title under="Ten minutes, three jugs, one glass at a time. At the end you know which balance of sugar to acid you like, and how sure we are.">
        Find my balance
      </Title>
      <Box
        sx={{
          display: "grid",
          gap: { xs: 2.5, md: 6 },
          alignItems: "start",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 560px) minmax(0, 480px)" },
        }}
      >
        <Box sx={{ display: "grid", gap: 2.5 }}>
          <Line label="Who are you?">
            <WhoTastes chosen={tasters} onChoose={setTasters} />
          </Line>
          <Line label="What makes it sour?">
            <Few label="What makes it sour" options={sours} chosen={sour} onChoose={setSour} />
          </Line>
          <Begin
            act="Start"
            can={tasters.length > 0 && !waits}
            wrong={wrong}
            onBegin={() =>
              begin({
                name: "Find my balance",
                what: { find: { sour, units: settings.units ?? "as_written" } },
                tasters,
                blind: false,
              })
            }
          />
        </Box>
        <ThreeJugs named />
      </Box>
    </Room>
  );
}
