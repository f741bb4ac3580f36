import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Feel } from "../drink/balance/Feel";
import { doubts, inWords, type Felt } from "../drink/balance/feel";
import { colour } from "../ui/theme";
import type { AskingProps } from "./asked";
import { look } from "./practice";
import { Sheet, VesselField, vesselOf } from "./Sheet";
import { Advice, useWays, Ways } from "./Ways";

/** What it tastes like, and what would put it right. */
export function Taste({ view, place, say, onClose }: AskingProps) {
  const [vessel, setVessel] = useState(vesselOf(view, place));
  const [felt, setFelt] = useState<Felt>({});
  const [words, setWords] = useState("");
  const [sip, setSip] = useState<string | undefined>();
  const said = doubts(felt);
  const { ways, advice, error, isFetching } = useWays(view, said, said.length > 0);
  const text = [inWords(said), words.trim()].filter(Boolean).join("; ");
  const keep = () => {
    if (text) void say({ tasted: { vessel, words: text } });
  };
  const taste = () =>
    look(view, { sip: vessel }).then(
      (seen) => {
        setFelt(Object.fromEntries(seen.words.map(({ too, how }) => [too, how])));
        setSip(seen.words.length === 0 ? "It tastes right." : undefined);
      },
      (fault: Error) => setSip(fault.message),
    );
  return (
    <Sheet
      title="Taste and correct"
      act="Save"
      onSubmit={() => {
        keep();
        onClose();
      }}
      onClose={onClose}
      width={620}
    >
      <VesselField view={view} value={vessel} onChange={setVessel} />
      {view.practice && (
        <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1.5 }}>
          <Button variant="outlined" onClick={() => void taste()}>
            Take a sip
          </Button>
          <Box role="status">{sip}</Box>
        </Box>
      )}
      <Feel felt={felt} onChange={setFelt} />
      <TextField
        label="In your own words"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 1500 } }}
      />
      {error && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {error.message}
        </Box>
      )}
      {said.length > 0 && ways && ways.length > 0 && (
        <Ways
          ways={ways}
          say={say}
          onTaken={() => {
            keep();
            onClose();
          }}
        />
      )}
      {said.length > 0 && advice && advice.length > 0 && (
        <Advice
          advice={advice}
          say={say}
          onTaken={() => {
            keep();
            onClose();
          }}
        />
      )}
      {said.length > 0 && ways?.length === 0 && !advice?.length && !isFetching && (
        <Box sx={{ color: colour("muted") }}>
          You can't correct this with what you have now. A later step may help.
        </Box>
      )}
    </Sheet>
  );
}
