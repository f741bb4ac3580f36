import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import {
  answer,
  api,
  type DrinkInPlan,
  type GoingBatch,
  type Plan,
  type PlanAnswer,
} from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { momentOf, until } from "../make/clock";
import { useGoing } from "../make/Going";
import { momentNow, useNow } from "../make/hooks";
import { late, LATE } from "../make/ready";
import { span } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { newKey } from "../api/newKey";

/** Starts a batch of a plan's drink, at its size. */
function useMake(plan: string) {
  const go = useNavigate();
  return useMutation({
    mutationFn: (entry: string) =>
      answer(
        api.POST("/api/plans/{id}/make", {
          params: { path: { id: plan } },
          body: { entry },
          headers: { "idempotency-key": newKey() },
        }),
      ),
    onSuccess: (batch) => void go(`/make/${batch.id}`),
  });
}

interface MakingProps {
  id: string;
  answer: PlanAnswer;
  plan: Plan;
  /** Everything is served so many minutes later. */
  onLater: (by: number) => void;
}

/** Making what is planned: what was started, whether it is in time, what is late, and what is still to be started. */
export function Making({ id, answer: planned, plan, onLater }: MakingProps) {
  const make = useMake(id);
  const { batches, heardAt } = useGoing();
  const now = useNow();
  const of = (entry: string) => batches.find((b) => b.plan?.id === id && b.plan.entry === entry);
  const drinks = planned.drinks.filter((d) => d.position != null);
  // By how much each is late as everything stands now: hands, burners and vessels of all drinks counted.
  const lateBy = (drink: DrinkInPlan) => (plan.ready[drink.position!] ?? 0) - drink.serve_at;
  const latest = drinks.reduce<DrinkInPlan | undefined>(
    (worst, one) => (worst === undefined || lateBy(one) > lateBy(worst) ? one : worst),
    undefined,
  );
  const isMade = (drink: DrinkInPlan) =>
    plan.tasks.every((task) => task.drink !== drink.position || task.state === "done");
  return (
    <Box component="section" aria-label="Making it">
      <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0, mb: 1 }}>
        Make it
      </Box>
      <Trouble error={make.error ?? undefined} />
      {plan.under_way && latest && plan.later_by != null && lateBy(latest) > LATE && (
        <Box
          role="status"
          sx={{ mb: 1.5, display: "flex", flexWrap: "wrap", alignItems: "center", columnGap: 2 }}
        >
          {latest.name} will be ready {span(lateBy(latest))} after it should be served.
          <Button variant="outlined" onClick={() => onLater(plan.later_by!)}>
            Serve {span(plan.later_by)} later
          </Button>
        </Box>
      )}
      <Box
        component="ul"
        sx={{ listStyle: "none", m: 0, p: 0, display: "flex", flexWrap: "wrap", gap: 1 }}
      >
        {drinks.map((drink) => {
          const batch = of(drink.id);
          return (
            <Box component="li" key={drink.id}>
              {batch ? (
                <Button component={Link} to={`/make/${batch.id}`} variant="outlined">
                  <Box
                    aria-hidden
                    sx={{ width: 12, height: 12, borderRadius: "50%", mr: 1 }}
                    style={{ background: drink.colour ?? colour("muted") }}
                  />
                  {drink.name}: {intime(batch, momentNow(batch, heardAt, now), lateBy(drink))}
                </Button>
              ) : isMade(drink) ? (
                <Box sx={{ minHeight: 44, display: "flex", alignItems: "center", px: 1 }}>
                  {drink.name}: finished
                </Box>
              ) : (
                <Button
                  variant="outlined"
                  disabled={make.isPending}
                  aria-label={`Make ${drink.name}`}
                  onClick={() => make.mutate(drink.id)}
                >
                  <Box
                    aria-hidden
                    sx={{ width: 12, height: 12, borderRadius: "50%", mr: 1 }}
                    style={{ background: drink.colour ?? colour("muted") }}
                  />
                  {drink.name}
                </Button>
              )}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

/** "ready 14:50, as planned". */
function intime(batch: GoingBatch, at: number, lateBy: number): string {
  const served = servedAt(batch);
  const readyAt = lateBy > LATE ? served + lateBy : batch.ready_at;
  const ready = `ready ${until(momentOf(batch.begun_at, readyAt), at)}`;
  return batch.plan ? `${ready}, ${late(readyAt, served)}` : ready;
}

/** When a batch of the plan is served, minutes since it was started. */
function servedAt(batch: GoingBatch): number {
  if (!batch.plan) return Infinity;
  return (Date.parse(batch.plan.serve_at) - Date.parse(batch.begun_at)) / 60_000;
}
