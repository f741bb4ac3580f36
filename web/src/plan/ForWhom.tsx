import Box from "@mui/material/Box";
import type { PlanAnswer, PlanFile } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { useTasters } from "../drink/balance/useDrinkers";
import { useForWhom } from "../drink/balance/useForWhom";
import { Seats, useDrink } from "../tasting/choose";
import { invite, invited } from "./guests";
import type { Edit } from "./planEditor";

interface ForWhomProps {
  drinks: PlanAnswer["drinks"];
  plan: PlanFile;
  edit: Edit;
}

/** Who comes; and of the planned drinks: who stirs something into the own glass, and who doesn't take it. */
export function ForWhom({ drinks, plan, edit }: ForWhomProps) {
  const { data: tasters } = useTasters();
  const known = tasters?.map((view) => view.id) ?? [];
  if (known.length === 0) return null;
  const guests = plan.guests ?? [];
  return (
    <Box component="section" aria-label="For whom" sx={{ mt: 3, maxWidth: 820 }}>
      <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0, mb: 1 }}>
        For whom
      </Box>
      <Box className="no-print" sx={{ mb: 1.5 }}>
        <Seats
          label="Who comes"
          chosen={invited(known, guests)}
          onToggle={(id) => edit((p) => ({ ...p, guests: invite(known, p.guests ?? [], id) }))}
        />
      </Box>
      {drinks.map((drink) => (
        <OfDrink key={drink.position} id={drink.drink} guests={guests} />
      ))}
    </Box>
  );
}

function OfDrink({ id, guests }: { id: string; guests: string[] }) {
  const { data: drink } = useDrink(id);
  const all = useForWhom(drink, guests);
  const differ = all.filter((one) => one.differs);
  if (!drink || all.length === 0) return null;
  return (
    <Box sx={{ py: 0.75, borderTop: `1px solid ${colour("hairline")}` }}>
      <Box component="span" sx={{ fontWeight: 600 }}>
        {drink.name}
      </Box>
      :{" "}
      {differ.length === 0
        ? "everyone whose taste we know likes it as it is."
        : `${differ.map((one) => `${one.name} ${one.does}`).join("; ")}.`}
    </Box>
  );
}
