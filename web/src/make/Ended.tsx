import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, api, type BatchView, type Truth } from "../api/client";
import { keepNewest } from "../api/newest";
import { colour, displayFont } from "../ui/theme";
import { Bottles } from "../kept/Bottles";
import { FillBottles } from "../kept/FillBottles";
import { useKept } from "../kept/queries";
import { volume } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { GuestsSaid } from "./GuestsSaid";
import { Picture } from "./Picture";
import { big } from "./StepNow";
import type { Say } from "./useBatch";
import { newKey } from "../api/newKey";
import { keys, makeStale } from "../api/keys";

/** A batch that is finished: what was written, what came of it, and what it taught. */
export function Ended({ view, say }: { view: BatchView; say: Say }) {
  const { stands, ending } = view;
  const profile = stands.report.profile;
  const point = stands.report.map.point;
  const truth = view.truth ?? undefined;
  const rows: [string, string, string, string?][] = [
    [
      "sweetness",
      stands.written ? `${stands.written.sweetness.toFixed(1)} g` : "",
      point ? `${point.sweetness.toFixed(1)} ± ${stands.doubt.sweetness.toFixed(1)}` : "",
      truth?.end?.sweetness.toFixed(1),
    ],
    [
      "acidity",
      stands.written ? `${stands.written.acidity.toFixed(2)} %` : "",
      point ? `${point.acidity.toFixed(2)} ± ${stands.doubt.acidity.toFixed(2)}` : "",
      truth?.end?.acidity.toFixed(2),
    ],
    [
      "there is",
      volume(stands.written_ml),
      profile ? volume(profile.volume_ml) : "",
      truth && volume(truth.volume_ml),
    ],
  ];
  const heads = ["", "written", truth ? "believed" : "made", ...(truth ? ["really"] : [])];
  const bottles = ending?.bottles;
  const stood = [
    bottles != null && `${bottles} ${bottles === 1 ? "bottle" : "bottles"}`,
    ending?.place,
  ].filter(Boolean);
  return (
    <>
      <Box component="h2" sx={big}>
        Finished.
      </Box>
      {stood.length > 0 && <Box sx={{ fontSize: 18, mt: 1 }}>{stood.join(", ")}</Box>}
      {ending?.note && <Box sx={{ fontSize: 17, color: colour("muted") }}>{ending.note}</Box>}
      <Box
        component="table"
        sx={{
          mt: 2,
          fontSize: { xs: 16, sm: 17 },
          borderCollapse: "collapse",
          whiteSpace: "nowrap",
          "& td, & th": { pr: { xs: 1.75, sm: 4 } },
        }}
      >
        <thead>
          <tr>
            {heads.map((head) => (
              <Box
                component={head ? "th" : "td"}
                key={head}
                sx={{ textAlign: "left", pb: 0.5, color: colour("muted"), fontSize: 14 }}
              >
                {head}
              </Box>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([what, written, made, really]) => (
            <tr key={what}>
              <Box component="th" sx={{ textAlign: "left", py: 0.5, fontWeight: 500 }}>
                {what}
              </Box>
              <Box component="td">{written}</Box>
              <Box component="td" sx={{ fontWeight: 700 }}>
                {made}
              </Box>
              {truth && (
                <Box component="td" sx={{ fontWeight: 700, color: colour("cobalt") }}>
                  {really}
                </Box>
              )}
            </tr>
          ))}
        </tbody>
      </Box>
      {stands.readings.length > 0 && (
        <Box sx={{ fontSize: 15, mt: 1, color: colour("muted") }}>
          {stands.inside} of {stands.readings.length}{" "}
          {stands.readings.length === 1 ? "reading was" : "readings were"} within the expected
          range.
        </Box>
      )}
      {!view.practice && <Liked view={view} />}
      {!view.practice && <Standing view={view} ml={profile?.volume_ml ?? stands.written_ml} />}
      {!view.practice && <Picture view={view} />}
      {truth && <Really truth={truth} />}
      {view.teaches.length > 0 && <Teaches view={view} />}
      {!view.practice && <GuestsSaid view={view} say={say} />}
    </>
  );
}

/** How it was liked, 1 to 5; touched again it is taken back. */
function Liked({ view }: { view: BatchView }) {
  const client = useQueryClient();
  const rate = useMutation({
    mutationFn: (rating: number | null) =>
      answer(
        api.PUT("/api/batches/{id}/rating", {
          params: { path: { id: view.id } },
          body: { rating },
        }),
      ),
    onSuccess: () => makeStale(client, "batch", view.id),
  });
  return (
    <Box role="group" aria-label="How was it" sx={{ display: "flex", alignItems: "center", mt: 2 }}>
      <Box sx={{ mr: 1 }}>How was it?</Box>
      {[1, 2, 3, 4, 5].map((n) => {
        const on = n <= (view.rating ?? 0);
        return (
          <Button
            key={n}
            aria-label={`${n} of 5`}
            aria-pressed={n === view.rating}
            onClick={() => rate.mutate(n === view.rating ? null : n)}
            sx={{ minWidth: 44, px: 0 }}
          >
            <svg width={26} height={30} viewBox="0 0 26 30" aria-hidden>
              <path
                d="M4 3l2.4 22q.2 2 2 2h9.2q1.8 0 2-2L22 3z"
                fill={on ? (view.stands.report.profile?.colour ?? colour("cobalt")) : "none"}
                stroke={colour(on ? "ink" : "muted")}
                strokeWidth={2}
              />
            </svg>
          </Button>
        );
      })}
      <Trouble error={rate.error ?? undefined} />
    </Box>
  );
}

/** The bottles that it filled: where they stand, and what is left of them. */
function Standing({ view, ml }: { view: BatchView; ml: number }) {
  const { data } = useKept();
  const [more, setMore] = useState(false);
  const mine = (data?.bottles ?? []).filter((bottle) => bottle.batch === view.id);
  return (
    <Box component="section" aria-label="Where it is kept" sx={{ mt: 2 }}>
      {mine.length > 0 && (
        <>
          <Box component="h3" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0 }}>
            Where it is kept
          </Box>
          <Bottles bottles={mine} height={84} to={(bottle) => `/kept/${bottle.id}`} />
          <Button component={Link} to="/kept/labels" sx={{ mt: 1 }}>
            Print labels
          </Button>
        </>
      )}
      {data && mine.length === 0 && !more && (
        <Button variant="outlined" onClick={() => setMore(true)}>
          Move it to the refrigerator
        </Button>
      )}
      {more && (
        <FillBottles
          of={{ batch: view.id }}
          ml={ml}
          bottles={view.ending?.bottles ?? undefined}
          onDone={() => setMore(false)}
        />
      )}
    </Box>
  );
}

/** How far off, in just-noticeable differences. */
const times = (differences: number | null | undefined) =>
  differences == null ? "unknown" : differences.toFixed(1);

/** The end of a practice run: how it really was. */
function Really({ truth }: { truth: Truth }) {
  const odd = truth.luck.slice(0, 4);
  return (
    <Box component="section" aria-label="How it really was" sx={{ mt: 3, maxWidth: 720 }}>
      <Box component="h3" sx={{ ...displayFont, fontSize: 22, fontWeight: 700, m: 0 }}>
        How it really was
      </Box>
      <Box sx={{ fontSize: 17, mt: 0.5 }}>
        It landed <strong>{times(truth.from_target)} noticeable steps from the target</strong>
        {truth.from_target != null && truth.from_target < 1 && ", too little to taste"}. Without
        your changes it would have been {times(truth.as_written)}. Your estimate was{" "}
        {times(truth.from_belief)} steps off.
      </Box>
      <Box component="ul" sx={{ listStyle: "none", p: 0, my: 1.5 }}>
        {odd.map((luck) => {
          const percent = Math.round(100 * (luck.factor - 1));
          const [low, high] = [luck.usual_from, luck.usual_to].map((f) =>
            Math.round(100 * (f - 1)),
          );
          return (
            <Box
              component="li"
              key={luck.what}
              sx={{ py: 0.75, borderTop: `1px solid ${colour("hairline")}` }}
            >
              {luck.what}:{" "}
              <strong>
                {percent === 0
                  ? "as expected"
                  : `${Math.abs(percent)} % ${percent > 0 ? "more" : "less"}`}
              </strong>{" "}
              <Box component="span" sx={{ color: colour("muted") }}>
                (nine in ten lie from {low} to +{high} %)
              </Box>
            </Box>
          );
        })}
      </Box>
      {truth.most_telling && <Box sx={{ fontSize: 16 }}>{truth.most_telling}</Box>}
    </Box>
  );
}

/** What the batch teaches the kitchen, to be taken or left. */
function Teaches({ view }: { view: BatchView }) {
  const client = useQueryClient();
  const teach = useMutation({
    mutationFn: (learn: boolean) =>
      answer(
        api.POST("/api/batches/{id}/teach", {
          params: { path: { id: view.id } },
          body: { learn },
          headers: { "idempotency-key": newKey() },
        }),
      ),
    onSuccess: async (next) => {
      await keepNewest(client, keys.batch(view.id), next);
      void makeStale(client, "kitchen");
    },
  });
  return (
    <Box component="section" aria-label="What this batch shows" sx={{ mt: 3, maxWidth: 720 }}>
      <Box component="h3" sx={{ ...displayFont, fontSize: 22, fontWeight: 700, m: 0 }}>
        What this batch shows
      </Box>
      <Box component="ul" sx={{ listStyle: "none", p: 0, my: 1 }}>
        {view.teaches.map((teaching) => (
          <Box
            component="li"
            key={teaching.message}
            sx={{ py: 0.75, borderTop: `1px solid ${colour("hairline")}`, fontSize: 16 }}
          >
            {teaching.message}
          </Box>
        ))}
      </Box>
      <Trouble error={teach.error ?? undefined} />
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1 }}>
        {view.learned === true ? (
          <>
            <Box sx={{ fontWeight: 600 }}>Saved to your kitchen.</Box>
            <Button onClick={() => teach.mutate(false)}>Undo</Button>
          </>
        ) : (
          <>
            <Button variant="contained" onClick={() => teach.mutate(true)}>
              Save to your kitchen
            </Button>
            {view.learned !== false && (
              <Button onClick={() => teach.mutate(false)}>Don’t save</Button>
            )}
            {view.learned === false && <Box sx={{ color: colour("muted") }}>Not saved.</Box>}
          </>
        )}
      </Box>
    </Box>
  );
}
