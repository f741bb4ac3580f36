import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Tab from "@mui/material/Tab";
import Tabs from "@mui/material/Tabs";
import { Link, useNavigate, useParams } from "react-router";
import { Ingredients } from "./Ingredients";
import { Measuring } from "./Measuring";
import { Produce } from "./Produce";
import { Vessels } from "./Vessels";
import { Water } from "./Water";
import { PageTitle } from "../ui/PageTitle";

const parts = {
  ingredients: { name: "Ingredients", view: Ingredients },
  produce: { name: "Produce", view: Produce },
  vessels: { name: "Vessels and strainers", view: Vessels },
  measuring: { name: "Measures and pots", view: Measuring },
  water: { name: "Water", view: Water },
} as const;

/** What this kitchen makes drinks from, and what each figure rests on. */
export default function Cupboard() {
  const { part = "ingredients" } = useParams();
  const go = useNavigate();
  const shown = part in parts ? (part as keyof typeof parts) : "ingredients";
  const View = parts[shown].view;
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 4, flex: 1, minWidth: 0 }}>
      <PageTitle>Cupboard</PageTitle>
      <Button
        component={Link}
        to="/syrup"
        sx={{ display: { xs: "inline-flex", sm: "none" }, px: 0 }}
      >
        Syrup desk
      </Button>
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
