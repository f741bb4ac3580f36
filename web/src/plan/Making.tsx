import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { answer, api, type GoingBatch, type PlanAnswer } from "../api/client";
import { colour, displayFont } from "../ui/theme";
import { momentOf, until } from "../make/clock";
import { useGoing } from "../make/Going";
import { momentNow, useNow } from "../make/hooks";
import { late, LATE } from "../make/ready";
import { span } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { newKey } from "../api/newKey";

/** Serving is moved in such steps, minutes. */
const STEP = 5;

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
  /** Everything is served so many minutes later. */
  onLater: (by: number) => void;
}

/** Making what is planned: what was started, whether it is in time, what is late, and what is still to be started. */
export function Making({ id, answer: planned, onLater }: MakingProps) {
  const make = useMake(id);
  const { batches, heardAt } = useGoing();
  const now = useNow();
  const of = (entry: string) => batches.find((b) => b.plan?.id === id && b.plan.entry === entry);
  const drinks = planned.drinks.filter((d) => d.position != null);
  const started = drinks.flatMap(({ id: entry, name }) => {
    const batch = of(entry);
    return batch?.plan ? [{ name, batch, by: batch.ready_at - servedAt(batch) }] : [];
  });
  const latest = started.reduce<(typeof started)[number] | undefined>(
    (worst, one) => (worst === undefined || one.by > worst.by ? one : worst),
    undefined,
  );
  const later = latest && Math.ceil(latest.by / STEP) * STEP;
  return (
    <Box component="section" aria-label="Making it">
      <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0, mb: 1 }}>
        Make it
      </Box>
      <Trouble error={make.error ?? undefined} />
      {latest && later && latest.by > LATE && (
        <Box role="status" sx={{ mb: 1.5, maxWidth: 620 }}>
          {latest.name} will be ready {span(latest.by)} after it should be served.{" "}
          <Button variant="outlined" sx={{ ml: 1 }} onClick={() => onLater(later)}>
            Serve {span(later)} later
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
  return `${ready}, ${late(batch.ready_at, servedAt(batch))}`;
}

/** When a batch of the plan is served, minutes since it was started. */
function servedAt(batch: GoingBatch): number {
  if (!batch.plan) return Infinity;
  return (Date.parse(batch.plan.serve_at) - Date.parse(batch.begun_at)) / 60_000;
}
