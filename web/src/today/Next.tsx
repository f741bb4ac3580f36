import Box from "@mui/material/Box";
import { useQueries } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, api } from "../api/client";
import { usePlans } from "../api/queries";
import { useGoing } from "../make/Going";
import { useNow } from "../make/hooks";
import { colour, displayFont } from "../ui/theme";
import { type Coming, nextThings } from "./next";
import { keys } from "../api/keys";

/** So many plans of the days ahead are worked out for this list, and so many rows of it are shown. */
const PLANS = 2;
const ROWS = 6;
const A_WEEK = 7 * 86_400_000;
const A_DAY = 86_400_000;

/** The plans of the coming week, worked out; those that were served today may still be under way. */
function useComing(now: number): Coming[] {
  const { data } = usePlans("");
  const coming = (data?.plans ?? [])
    .filter((plan) => {
      const ahead = Date.parse(plan.serving_at) - now;
      return !plan.damaged && plan.drinks.length > 0 && ahead > -A_DAY / 2 && ahead < A_WEEK;
    })
    .sort((a, b) => a.serving_at.localeCompare(b.serving_at))
    .slice(0, PLANS);
  return useQueries({
    queries: coming.map(({ id, changed_at }) => ({
      queryKey: keys.planned("next", id, changed_at),
      queryFn: async () => {
        const path = { params: { path: { id } } };
        const { plan } = await answer(api.GET("/api/plans/{id}", path));
        return answer(api.POST("/api/compute/plan", { body: { plan, help: false, id } }));
      },
      staleTime: 60_000,
    })),
    combine: (found) =>
      coming.flatMap(({ id, name }, i) => {
        const worked = found[i]?.data;
        return worked ? [{ id, name, answer: worked }] : [];
      }),
  });
}

/** What is next by the clock, over all batches and plans; nothing where nothing is. */
export function Next() {
  const { batches, heardAt } = useGoing();
  const now = useNow();
  const plans = useComing(now);
  const things = nextThings(batches, plans, heardAt, now);
  if (things.length === 0) return null;
  const more = things.length - ROWS;
  return (
    <Box component="section" aria-label="Next" sx={{ mb: 3, minWidth: 0 }}>
      <Box component="h2" sx={{ ...displayFont, fontSize: 22, fontWeight: 700, m: 0, mb: 0.5 }}>
        Next
      </Box>
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {things.slice(0, ROWS).map((thing) => (
          <Box
            component="li"
            key={thing.key}
            sx={{ borderBottom: `1px solid ${colour("hairline")}` }}
          >
            <Box
              component={Link}
              to={thing.to}
              aria-label={`${thing.of}. ${thing.when}: ${thing.what}`}
              sx={{
                display: "grid",
                gridTemplateColumns: { xs: "82px minmax(0, 1fr)", sm: "128px minmax(0, 1fr)" },
                columnGap: 1.5,
                alignItems: "center",
                minHeight: 56,
                py: 0.75,
                color: colour("ink"),
                textDecoration: "none",
                "&:hover [data-what]": { color: colour("cobalt") },
              }}
            >
              <Box
                sx={{
                  ...displayFont,
                  fontSize: { xs: 15, sm: 17 },
                  fontWeight: 700,
                  fontVariantNumeric: "tabular-nums",
                  color: colour(thing.minutes === 0 ? "cobalt" : "ink"),
                }}
              >
                {thing.when}
              </Box>
              <Box sx={{ minWidth: 0 }}>
                <Box
                  data-what
                  sx={{
                    fontSize: 16,
                    fontWeight: 600,
                    lineHeight: 1.3,
                    overflow: "hidden",
                    display: "-webkit-box",
                    WebkitBoxOrient: "vertical",
                    WebkitLineClamp: { xs: "2", sm: "1" },
                  }}
                >
                  {thing.what}
                </Box>
                <Box
                  sx={{
                    display: "flex",
                    alignItems: "center",
                    gap: 1,
                    fontSize: 14,
                    color: colour("muted"),
                  }}
                >
                  <Box
                    aria-hidden
                    sx={{ width: 11, height: 11, borderRadius: "50%", flexShrink: 0 }}
                    style={{ background: thing.colour ?? colour("muted") }}
                  />
                  <Box
                    component="span"
                    sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
                  >
                    {thing.of}
                  </Box>
                </Box>
              </Box>
            </Box>
          </Box>
        ))}
      </Box>
      {more > 0 && <Box sx={{ fontSize: 14, color: colour("muted"), mt: 1 }}>and {more} more</Box>}
    </Box>
  );
}
