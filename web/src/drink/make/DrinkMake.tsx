import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { answer, api, type BatchEntry, type Drink, type DrinkReport } from "../../api/client";
import { colour, displayFont } from "../../ui/theme";
import { useBegin } from "../../api/useBegin";
import { effort, span, volume, when } from "../../ui/format";
import { Trouble } from "../../ui/Trouble";
import { keys } from "../../api/keys";

/** Making this drink: what to get out, the start, and its batches in progress and finished. */
export default function DrinkMake({ drink, report }: { drink: Drink; report: DrinkReport }) {
  const { id = "" } = useParams();
  const { data, error, refetch } = useQuery({
    queryKey: keys.batches(id),
    queryFn: () => answer(api.GET("/api/batches", { params: { query: { drink: id } } })),
    staleTime: 0,
  });
  const begin = useBegin(id);
  const batches = data?.batches ?? [];
  const groups: [string, BatchEntry[]][] = [
    ["In progress", batches.filter((b) => b.finished_at == null)],
    ["Made", batches.filter((b) => b.finished_at != null && !b.practice)],
    ["Practice", batches.filter((b) => b.finished_at != null && b.practice)],
  ];
  return (
    <Box
      sx={{
        px: { xs: 2, md: 3.5 },
        pb: 3,
        flex: 1,
        minWidth: 0,
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 380px" },
        columnGap: 5,
        alignContent: "start",
      }}
    >
      <Box sx={{ minWidth: 0, maxWidth: 860 }}>
        <Box sx={{ fontSize: 17, mb: 2, maxWidth: 640 }}>
          One step at a time, readable from across the kitchen. Enter what you really used and
          measured, and the remaining steps adjust.
        </Box>
        <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1.5 }}>
          <Button
            variant="contained"
            onClick={() => begin.mutate({ drink })}
            disabled={begin.isPending || drink.steps.length === 0}
            sx={{ minHeight: 56, px: 4, fontSize: 18 }}
          >
            Make it now
          </Button>
          <Button
            variant="outlined"
            onClick={() => begin.mutate({ drink, practice: true })}
            disabled={begin.isPending || drink.steps.length === 0}
            sx={{ minHeight: 56, px: 3, fontSize: 18 }}
          >
            Practise
          </Button>
          <Box sx={{ color: colour("muted"), fontSize: 15, maxWidth: 420 }}>
            Practise with simulated instruments and unknown lemons. At the end you see how it really
            was. Nothing is saved to your records.
          </Box>
        </Box>
        <Trouble
          error={begin.error ?? error ?? undefined}
          again={error ? () => void refetch() : undefined}
        />
        {(data?.readings ?? 0) > 0 && (
          <Box sx={{ mt: 2, fontSize: 15 }}>
            {data!.inside} of {data!.readings} readings were within the expected range; we expect
            about {(0.9 * data!.readings).toFixed(1)}.
          </Box>
        )}
        {groups.map(
          ([title, list]) =>
            list.length > 0 && (
              <Box component="section" key={title} aria-label={title} sx={{ mt: 3 }}>
                <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0 }}>
                  {title}
                </Box>
                <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
                  {list.map((batch) => (
                    <Box
                      component="li"
                      key={batch.id}
                      sx={{ borderBottom: `1px solid ${colour("hairline")}` }}
                    >
                      <Line batch={batch} />
                    </Box>
                  ))}
                </Box>
              </Box>
            ),
        )}
      </Box>
      <GetReady report={report} />
    </Box>
  );
}

/** What stands on the worktop before the first step: nobody looks for the lemons while the pot boils. */
function GetReady({ report }: { report: DrinkReport }) {
  const amounts = report.lines.map((line) => {
    const most = line.ways[0]?.text ?? "";
    return [line.step, line.is_fill_line ? `to ${most}` : most, line.name] as const;
  });
  const vessels = report.vessels.map((vessel) => vessel.name.toLowerCase());
  if (amounts.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="Get ready"
      sx={{
        bgcolor: colour("enamel"),
        borderRadius: "14px",
        p: 2.5,
        mt: { xs: 3, md: 0 },
        alignSelf: "start",
      }}
    >
      <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0, mb: 1 }}>
        Get ready
      </Box>
      <Box
        component="dl"
        sx={{
          m: 0,
          display: "grid",
          gridTemplateColumns: "auto minmax(0, 1fr)",
          columnGap: 1.5,
          rowGap: 0.5,
          "& dt": { fontWeight: 700, textAlign: "right", fontVariantNumeric: "tabular-nums" },
          "& dd": { m: 0, overflowWrap: "anywhere" },
        }}
      >
        {amounts.map(([step, amount, name]) => (
          <Box key={step} sx={{ display: "contents" }}>
            <dt>{amount}</dt>
            <dd>{name}</dd>
          </Box>
        ))}
      </Box>
      <Box sx={{ mt: 1.5, color: colour("muted") }}>{vessels.join(", ")}</Box>
      <Box sx={{ mt: 0.5, color: colour("muted") }}>{effort(report).join(", ")}</Box>
    </Box>
  );
}

/** One batch: what was planned beside what was made. */
function Line({ batch }: { batch: BatchEntry }) {
  const { ending } = batch;
  const { written, made } = ending ?? {};
  const bottles = ending?.bottles;
  return (
    <Box
      component={Link}
      to={`/make/${batch.id}`}
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", sm: "200px 1fr" },
        columnGap: 2,
        py: 1.25,
        minHeight: 44,
        color: colour("ink"),
        textDecoration: "none",
      }}
    >
      <Box sx={{ color: colour("cobalt"), textDecoration: "underline" }}>
        {batch.practice && !ending ? "practice, " : ""}
        {ending ? when(batch.begun_at) : `started ${when(batch.begun_at)}`}
      </Box>
      {ending && (
        <Box>
          {made && written && (
            <>
              <strong>
                {made.sweetness.toFixed(1)} g, {made.acidity.toFixed(2)} %
              </strong>{" "}
              <Box component="span" sx={{ color: colour("muted") }}>
                (written {written.sweetness.toFixed(1)} g, {written.acidity.toFixed(2)} %)
              </Box>
              {", "}
            </>
          )}
          {volume(ending.made_ml)}
          {Math.abs(ending.made_ml - ending.written_ml) > 0.03 * ending.written_ml && (
            <Box component="span" sx={{ color: colour("muted") }}>
              {" "}
              of {volume(ending.written_ml)}
            </Box>
          )}
          {`, in ${span(ending.minutes)}`}
          {bottles != null && `, ${bottles} ${bottles === 1 ? "bottle" : "bottles"}`}
          {ending.place && `, ${ending.place}`}
          {ending.note && <Box sx={{ color: colour("muted") }}>{ending.note}</Box>}
        </Box>
      )}
    </Box>
  );
}
