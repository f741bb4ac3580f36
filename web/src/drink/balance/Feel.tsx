import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { colour } from "../../ui/theme";
import { degrees, felt, others, words, type Felt } from "./feel";

interface FeelProps {
  felt: Felt;
  onChange: (felt: Felt) => void;
}

/** How a word looks that was touched, or may be. */
const pressed = (on: boolean) => ({
  minHeight: 44,
  px: 0.5,
  fontSize: 14,
  border: `1.5px solid ${colour(on ? "cobalt" : "hairline")}`,
  bgcolor: on ? colour("wash") : "transparent",
  color: colour(on ? "cobalt" : "ink"),
});

/** What it tastes like, in two touches. */
export function Feel({ felt: now, onChange }: FeelProps) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" },
        columnGap: 3,
        rowGap: 0.75,
      }}
    >
      {words.map(([word, text]) => (
        <Box key={word} role="group" aria-label={text}>
          <Box sx={{ fontSize: 14 }}>{text}</Box>
          <Box sx={{ display: "flex", gap: 0.5 }}>
            {degrees.map(([how, name]) => {
              const on = now[word] === how;
              return (
                <Button
                  key={how}
                  aria-pressed={on}
                  aria-label={`${name} ${text}`}
                  onClick={() => onChange(felt(now, word, how))}
                  sx={{ ...pressed(on), flex: 1, minWidth: 0 }}
                >
                  {name}
                </Button>
              );
            })}
          </Box>
        </Box>
      ))}
      <Box
        role="group"
        aria-label="Something else"
        sx={{
          gridColumn: "1 / -1",
          display: "grid",
          gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(4, 1fr)" },
          gap: 0.5,
          mt: 0.5,
        }}
      >
        {others.map(([word, text]) => {
          const on = now[word] !== undefined;
          return (
            <Button
              key={word}
              aria-pressed={on}
              onClick={() => onChange(felt(now, word, "clearly"))}
              sx={pressed(on)}
            >
              {text}
            </Button>
          );
        })}
      </Box>
    </Box>
  );
}
