import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { colour, displayFont } from "../ui/theme";

const rows = ["1", "2", "3", "4", "5", "6", "7", "8", "9", ".", "0", "⌫"];

interface KeysProps {
  label: string;
  value: string;
  /** What the number counts: "g", "lemons". Words may be typed instead. */
  unit?: string | undefined;
  /** Amounts that are one touch away. */
  quick?: [string, string][];
  understood?: string | undefined;
  wrong?: string | undefined;
  onChange: (value: string) => void;
}

/** A number for a wet thumb: one large figure, and keys as large as on a kitchen scale. */
export function Keys({ label, value, unit, quick, understood, wrong, onChange }: KeysProps) {
  const press = (key: string) => onChange(key === "⌫" ? value.slice(0, -1) : value + key);
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      <Box component="label" sx={{ display: "grid", gap: 0.5 }}>
        <Box sx={{ fontSize: 15, fontWeight: 600 }}>{label}</Box>
        <Box
          sx={{
            display: "flex",
            alignItems: "baseline",
            gap: 1,
            px: 2,
            bgcolor: colour("ground"),
            borderRadius: "12px 12px 0 0",
            borderBottom: `4px solid ${colour(wrong ? "stop" : "cobalt")}`,
          }}
        >
          <Box
            component="input"
            value={value}
            inputMode="decimal"
            maxLength={60}
            aria-invalid={wrong !== undefined}
            onChange={(event) => onChange(event.target.value)}
            sx={{
              ...displayFont,
              flex: 1,
              minWidth: 0,
              width: 1,
              py: 0.75,
              border: 0,
              outline: 0,
              bgcolor: "transparent",
              color: colour("cobalt"),
              fontSize: 44,
              fontWeight: 800,
            }}
          />
          <Box sx={{ fontSize: 22, color: colour("muted"), whiteSpace: "nowrap" }}>{unit}</Box>
        </Box>
      </Box>
      <Box
        role={wrong ? "alert" : "status"}
        sx={{ minHeight: 24, fontSize: 16, color: colour(wrong ? "stop" : "ink") }}
      >
        {wrong ?? understood}
      </Box>
      {quick && (
        <Box sx={{ display: "grid", gridAutoFlow: "column", gridAutoColumns: "1fr", gap: 1 }}>
          {quick.map(([name, text]) => (
            <Button
              key={name}
              variant="outlined"
              aria-pressed={value === text}
              onClick={() => onChange(text)}
              sx={{ minHeight: 52, minWidth: 0, px: 0.5, fontSize: 16 }}
            >
              {name}
            </Button>
          ))}
        </Box>
      )}
      <Box
        role="group"
        aria-label="Keys"
        sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: 1 }}
      >
        {rows.map((key) => (
          <Button
            key={key}
            aria-label={key === "⌫" ? "Delete the last digit" : key === "." ? "point" : key}
            onClick={() => press(key)}
            sx={{
              minHeight: 58,
              fontSize: 24,
              fontWeight: 700,
              color: colour("ink"),
              bgcolor: colour("ground"),
              borderRadius: "12px",
            }}
          >
            {key}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
