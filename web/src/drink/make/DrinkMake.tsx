import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "react-router";
import { answer, api, type BatchEntry, type Drink } from "../../api/client";
import { colour, displayFont } from "../../app/theme";
import { when } from "../../ui/format";
import { Trouble } from "../../ui/Trouble";

/** Making this drink: a batch is begun here, and those that go on and were made stand below. */
export default function DrinkMake({ drink }: { drink: Drink }) {
  const { id = "" } = useParams();
  const go = useNavigate();
  const client = useQueryClient();
  const { data, error, refetch } = useQuery({
    queryKey: ["batches", id],
    queryFn: () => answer(api.GET("/api/batches", { params: { query: { drink: id } } })),
    staleTime: 0,
  });
  const begin = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/batches", {
          body: { of: id, drink },
          headers: { "idempotency-key": crypto.randomUUID() },
        }),
      ),
    onSuccess: (made) => {
      void client.invalidateQueries({ queryKey: ["batches"] });
      void go(`/make/${made.id}`);
    },
  });
  const batches = data?.batches ?? [];
  const groups: [string, BatchEntry[]][] = [
    ["Going on", batches.filter((b) => b.finished_at == null)],
    ["Made", batches.filter((b) => b.finished_at != null)],
  ];
  return (
    <Box sx={{ px: { xs: 2, md: 3.5 }, pb: 3, flex: 1, minWidth: 0, maxWidth: 860 }}>
      <Box sx={{ fontSize: 17, mb: 2, maxWidth: 640 }}>
        One step at a time, in letters that are read from two metres. Say what was really used and
        measured: the rest of the steps and the point on the map follow.
      </Box>
      <Button
        variant="contained"
        onClick={() => begin.mutate()}
        disabled={begin.isPending || drink.steps.length === 0}
        sx={{ minHeight: 56, px: 4, fontSize: 18 }}
      >
        Make it now
      </Button>
      <Trouble
        error={begin.error ?? error ?? undefined}
        again={error ? () => void refetch() : undefined}
      />
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
                    <Box
                      component={Link}
                      to={`/make/${batch.id}`}
                      sx={{ display: "block", py: 1.5, minHeight: 44, color: colour("cobalt") }}
                    >
                      begun {when(batch.begun_at)}
                      {batch.finished_at && `, finished ${when(batch.finished_at)}`}
                    </Box>
                  </Box>
                ))}
              </Box>
            </Box>
          ),
      )}
    </Box>
  );
}
