import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { answer, api, type GoingBatch, type PlanAnswer } from "../api/client";
import { colour, displayFont } from "../app/theme";
import { momentOf, until } from "../make/clock";
import { useGoing } from "../make/Going";
import { momentNow, useNow } from "../make/hooks";
import { late } from "../make/ready";
import { Trouble } from "../ui/Trouble";
import { newKey } from "../api/newKey";

/** Begins a batch of a plan's drink, at its size. */
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

/** Making what is planned: what was begun, whether it is in time, and what is still to be begun. */
export function Making({ id, answer: planned }: { id: string; answer: PlanAnswer }) {
  const make = useMake(id);
  const { batches, heardAt } = useGoing();
  const now = useNow();
  const of = (entry: string) => batches.find((b) => b.plan?.id === id && b.plan.entry === entry);
  const drinks = planned.drinks.filter((d) => d.position != null);
  return (
    <Box component="section" aria-label="Making it">
      <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0, mb: 1 }}>
        Make it
      </Box>
      <Trouble error={make.error ?? undefined} />
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
                  {drink.name}: {intime(batch, momentNow(batch, heardAt, now))}
                </Button>
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
function intime(batch: GoingBatch, at: number): string {
  const ready = `ready ${until(momentOf(batch.begun_at, batch.ready_at), at)}`;
  if (!batch.plan) return ready;
  const serve = (Date.parse(batch.plan.serve_at) - Date.parse(batch.begun_at)) / 60_000;
  return `${ready}, ${late(batch.ready_at, serve)}`;
}
