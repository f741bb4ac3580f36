import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useStore } from "zustand";
import type { PlanFile } from "../../api/client";
import { usePlanActions, usePlans } from "../../api/queries";
import { colour } from "../../ui/theme";
import { PlanDesk } from "../../plan/PlanDesk";
import { comingSaturday } from "../../plan/times";
import type { Edit } from "../../plan/planEditor";
import type { Editor } from "../editing/editor";

const place = (id: string) => `keen-pitcher/plan-of/${id}`;

/** The plan that was last looked at for this drink alone; it is in the browser's storage. */
function recall(id: string, name: string): PlanFile {
  const usual: PlanFile = {
    name,
    serving: comingSaturday(),
    drinks: [{ id: "a", drink: id, name }],
    night: { from: "22:00", to: "07:00" },
  };
  try {
    const known = JSON.parse(localStorage.getItem(place(id)) ?? "null") as PlanFile | null;
    return known?.serving ? { ...known, name } : usual;
  } catch {
    return usual;
  }
}

/** When to begin with this drink alone, and the plans that it is part of. */
export default function DrinkPlan({ editor }: { editor: Editor }) {
  const { id = "" } = useParams();
  const name = useStore(editor.store, (s) => s.drink.name);
  const saved = useStore(editor.store, (s) => s.saving.phase === "saved");
  const [plan, setPlan] = useState(() => recall(id, name));
  const edit: Edit = setPlan;
  const [found] = useState(plan);
  useEffect(() => {
    // A plan that was only looked at isn't remembered: next week its Saturday would be past.
    if (plan === found) return;
    try {
      localStorage.setItem(place(id), JSON.stringify(plan));
    } catch {
      // It is remembered for as long as the window is open.
    }
  }, [id, plan, found]);
  const { create } = usePlanActions();
  const { data } = usePlans("");
  const go = useNavigate();
  const others = (data?.plans ?? []).filter((p) => p.drinks.some((d) => d.name === name));
  return (
    <Box
      sx={{
        px: { xs: 2, md: 3.5 },
        pb: 3,
        flex: 1,
        minWidth: 0,
        display: "grid",
        gap: 2,
        alignContent: "start",
        gridTemplateColumns: "minmax(0, 1fr)",
      }}
    >
      {saved && <PlanDesk plan={plan} edit={edit} many={false} />}
      <Box
        className="no-print"
        sx={{ display: "flex", flexWrap: "wrap", gap: 1.5, alignItems: "center" }}
      >
        <Button
          variant="contained"
          disabled={create.isPending || (plan.drinks ?? []).length === 0}
          onClick={() => create.mutate(plan, { onSuccess: (made) => void go(`/plan/${made.id}`) })}
        >
          Save this plan
        </Button>
        {(plan.drinks ?? []).length === 0 && (
          <Button onClick={() => edit((p) => ({ ...p, drinks: [{ id: "a", drink: id, name }] }))}>
            Add {name} again
          </Button>
        )}
        {others.length > 0 && (
          <Box sx={{ color: colour("muted") }}>
            Also in{" "}
            {others.map((other, i) => (
              <span key={other.id}>
                {i > 0 && ", "}
                <Link className="kp-finger" to={`/plan/${other.id}`}>
                  {other.name}
                </Link>
              </span>
            ))}
          </Box>
        )}
      </Box>
    </Box>
  );
}
