import Box from "@mui/material/Box";
import Tab from "@mui/material/Tab";
import Tabs from "@mui/material/Tabs";
import { useNavigate, useParams } from "react-router";
import { displayFont } from "../app/theme";
import { Ingredients } from "./Ingredients";
import { Measuring } from "./Measuring";
import { Produce } from "./Produce";
import { Vessels } from "./Vessels";

const parts = {
  ingredients: { name: "Ingredients", view: Ingredients },
  produce: { name: "Produce", view: Produce },
  vessels: { name: "Vessels and strainers", view: Vessels },
  measuring: { name: "Measures and pots", view: Measuring },
} as const;

/** What this kitchen makes drinks from, and what each figure rests on. */
export default function Cupboard() {
  const { part = "ingredients" } = useParams();
  const go = useNavigate();
  const shown = part in parts ? (part as keyof typeof parts) : "ingredients";
  const View = parts[shown].view;
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 4, flex: 1, minWidth: 0 }}>
      <Box
        component="h1"
        sx={{ ...displayFont, fontSize: 34, fontWeight: 700, letterSpacing: "-0.02em", m: 0 }}
      >
        Cupboard
      </Box>
      <Tabs
        value={shown}
        onChange={(_, next: string) => void go(`/cupboard/${next}`, { replace: true })}
        variant="scrollable"
        scrollButtons={false}
        aria-label="Parts of the cupboard"
        sx={{
          mb: 2,
          "& .MuiTab-root": { textTransform: "none", fontSize: 15, minHeight: 44, px: 1.5 },
        }}
      >
        {Object.entries(parts).map(([key, { name }]) => (
          <Tab key={key} value={key} label={name} />
        ))}
      </Tabs>
      <View />
    </Box>
  );
}
