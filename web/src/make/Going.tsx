import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, api, type BatchView, type GoingBatch } from "../api/client";
import { colour } from "../ui/theme";
import { left, momentOf, share, until } from "./clock";
import { momentNow, useNow } from "./hooks";
import type { Say } from "./useBatch";
import { keys } from "../api/keys";

/** Everything that is on the go. */
export function useGoing() {
  const { data, dataUpdatedAt } = useQuery({
    queryKey: keys.going(),
    queryFn: () => answer(api.GET("/api/going")),
    staleTime: 0,
    refetchInterval: 60_000,
  });
  return { batches: data?.batches ?? [], heardAt: dataUpdatedAt };
}

/** A batch, as far as its waits go. */
type Waiter = Pick<GoingBatch, "id" | "name" | "colour" | "begun_at" | "now" | "rate" | "waits">;

/** Something that goes on by itself, in one of the batches. */
export interface Waiting {
  batch: Waiter;
  step: string;
  sentence: string;
  from: number;
  to: number;
  /** What time it is there. */
  at: number;
}

/** The open batch with its waits: from what it shows, so that a wait that is done is gone with it. */
export function waiterOf(view: BatchView): Waiter {
  const { steps, report } = view.stands;
  const sentence = (step: string) => report.frames.find((f) => f.step === step)?.sentence ?? "";
  return {
    ...view,
    colour: report.profile?.colour,
    waits: steps
      .filter((s) => s.state === "running")
      .map(({ id, since, until }) => ({
        step: id,
        sentence: sentence(id),
        since: since ?? 0,
        until: until ?? 0,
      })),
  };
}

/** All waits of these batches, the one that is over first, first. */
export function waitsOf(batches: Waiter[], heardAt: number, now: number): Waiting[] {
  const all = batches.flatMap((batch) => {
    const at = momentNow(batch, heardAt, now);
    return batch.waits.map((wait) => ({
      batch,
      step: wait.step,
      sentence: wait.sentence,
      from: momentOf(batch.begun_at, wait.since),
      to: momentOf(batch.begun_at, wait.until),
      at,
    }));
  });
  return all.sort((a, b) => a.to - a.at - (b.to - b.at));
}

/** The open batch, and when its state was heard. */
export interface Opened {
  view: BatchView;
  heardAt: number;
}

/** The waits of the open batch and of all others, each second. */
export function useWaits({ view, heardAt }: Opened): Waiting[] {
  const going = useGoing();
  const now = useNow();
  const others = going.batches.filter((batch) => batch.id !== view.id);
  return [...waitsOf([waiterOf(view)], heardAt, now), ...waitsOf(others, going.heardAt, now)];
}

/** What goes on by itself, in this batch and in others; and what else needs hands. */
export function Going({ say, ...opened }: Opened & { say: Say }) {
  const open = opened.view.id;
  const all = useWaits(opened);
  const { batches } = useGoing();
  const ready = batches.filter((b) => b.id !== open && b.next != null && !b.practice);
  // Of another batch the next to be over is enough.
  const waits = all.filter(
    ({ batch }, i) => batch.id === open || all.findIndex((w) => w.batch.id === batch.id) === i,
  );
  if (waits.length + ready.length === 0) return null;
  return (
    <Box
      component="ul"
      aria-label="Waits"
      sx={{ listStyle: "none", m: 0, p: 0, display: "flex", flexWrap: "wrap", gap: 1 }}
    >
      {waits.map(({ batch, step, sentence, from, to, at }) => {
        const over = to <= at;
        const mine = batch.id === open;
        return (
          <Box
            component="li"
            key={`${batch.id}/${step}`}
            data-wait={step}
            sx={{
              ...chip,
              bgcolor: colour(over ? "notice" : "enamel"),
              color: colour(over ? "onNotice" : "ink"),
            }}
          >
            <Box
              aria-hidden
              sx={{ width: 12, height: 12, borderRadius: "50%", flexShrink: 0 }}
              style={{ background: batch.colour ?? colour("muted") }}
            />
            <Box sx={line} title={sentence}>
              {mine ? sentence.replace(/\.$/, "") : <strong>{batch.name}</strong>}
            </Box>
            <Box role="timer" sx={{ fontWeight: 700, whiteSpace: "nowrap" }}>
              {over ? (
                "over"
              ) : (
                <>
                  <Box component="span" sx={{ display: { xs: "none", sm: "inline" } }}>
                    {left(to, at)},{" "}
                  </Box>
                  until {until(to, at)}
                </>
              )}
            </Box>
            <Box
              aria-hidden
              sx={{
                width: 72,
                height: 6,
                borderRadius: 3,
                bgcolor: colour("track"),
                display: { xs: "none", sm: "block" },
                flexShrink: 0,
              }}
            >
              <Box
                sx={{ height: 6, borderRadius: 3, bgcolor: colour("cobalt") }}
                style={{ width: `${100 * share(from, to, at)}%` }}
              />
            </Box>
            {mine ? (
              <Button
                aria-label={`Done: ${sentence}`}
                onClick={() => void say({ done: { step } })}
                sx={{ color: "inherit", textDecoration: "underline" }}
              >
                Done
              </Button>
            ) : (
              <Button
                component={Link}
                to={`/make/${batch.id}`}
                aria-label={`Go to ${batch.name}`}
                sx={{ color: "inherit", textDecoration: "underline" }}
              >
                Go there
              </Button>
            )}
          </Box>
        );
      })}
      {ready.map((batch) => (
        <Box component="li" key={batch.id} sx={{ ...chip, bgcolor: colour("enamel") }}>
          <Box
            aria-hidden
            sx={{ width: 12, height: 12, borderRadius: "50%", flexShrink: 0 }}
            style={{ background: batch.colour ?? colour("muted") }}
          />
          <Box sx={line}>
            <strong>{batch.name}</strong> ready
          </Box>
          <Button component={Link} to={`/make/${batch.id}`} aria-label={`Go to ${batch.name}`}>
            Go there
          </Button>
        </Box>
      ))}
    </Box>
  );
}

const line = {
  minWidth: 0,
  flex: { xs: 1, sm: "0 1 auto" },
  overflow: "hidden",
  textOverflow: "ellipsis",
  whiteSpace: "nowrap",
} as const;

const chip = {
  display: "flex",
  alignItems: "center",
  gap: 1.5,
  pl: 2,
  pr: 0.75,
  minHeight: 48,
  borderRadius: "12px",
  maxWidth: "100%",
  flex: { xs: "1 1 100%", sm: "0 1 auto" },
  minWidth: 0,
  whiteSpace: "nowrap",
} as const;
