import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, api } from "../../api/client";
import { colour } from "../../ui/theme";
import { volume } from "../../ui/format";
import { Trouble } from "../../ui/Trouble";
import { useSettled } from "../../ui/useSettled";
import { dayOf } from "./words";
import { keys } from "../../api/keys";

const PAGE = 20;

/** All batches, found by words, days and how they were liked; those of this drink, or of every one. */
export function AllBatches({ id, total }: { id: string; total: number }) {
  const [open, setOpen] = useState(false);
  const [find, setFind] = useState("");
  const [from, setFrom] = useState("");
  const [before, setBefore] = useState("");
  const [rating, setRating] = useState("");
  const [of, setOf] = useState<"this" | "all">("this");
  const settled = useSettled(find, 150);
  const asked = { find: settled, from, before, rating, of };
  const { data, error, fetchNextPage, hasNextPage } = useInfiniteQuery({
    queryKey: keys.batches(id, asked),
    queryFn: ({ pageParam }) =>
      answer(
        api.GET("/api/batches", {
          params: {
            query: {
              made: true,
              find: settled,
              after: pageParam,
              limit: PAGE,
              ...(of === "this" && { drink: id }),
              ...(from && { from }),
              ...(before && { before }),
              ...(rating && { rating: Number(rating) }),
            },
          },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next ?? undefined,
    placeholderData: keepPreviousData,
    enabled: open,
    staleTime: 0,
  });
  if (!open) {
    return (
      <Button onClick={() => setOpen(true)} sx={{ ml: -2 }}>
        Search batches of {total === 1 ? "one" : total}, or in all
      </Button>
    );
  }
  const found = data?.pages.flatMap((page) => page.batches) ?? [];
  return (
    <Box component="section" aria-label="Find a batch" sx={{ mt: 2 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        <TextField
          size="small"
          label="A word or a name"
          type="search"
          value={find}
          onChange={(event) => setFind(event.target.value)}
          sx={{ flex: "1 1 180px" }}
        />
        {(
          [
            ["From", from, setFrom],
            ["Before", before, setBefore],
          ] as const
        ).map(([label, value, set]) => (
          <TextField
            key={label}
            size="small"
            label={label}
            type="date"
            value={value}
            onChange={(event) => set(event.target.value)}
            sx={{ width: 150 }}
          />
        ))}
        <TextField
          select
          size="small"
          label="Liked"
          value={rating}
          onChange={(event) => setRating(event.target.value)}
          sx={{ width: 130 }}
        >
          <MenuItem value="">any</MenuItem>
          {[3, 4, 5].map((n) => (
            <MenuItem key={n} value={String(n)}>
              {n} of 5 {n < 5 && "or more"}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="Of"
          value={of}
          onChange={(event) => setOf(event.target.value as typeof of)}
          sx={{ width: 130 }}
        >
          <MenuItem value="this">this drink</MenuItem>
          <MenuItem value="all">all drinks</MenuItem>
        </TextField>
      </Box>
      <Trouble error={error ?? undefined} />
      {data && found.length === 0 && <Box sx={{ py: 1 }}>No matching batches.</Box>}
      <Box component="ul" sx={{ listStyle: "none", m: 0, mt: 1, p: 0 }}>
        {found.map((batch) => (
          <Box
            component="li"
            key={batch.id}
            sx={{ borderTop: `1px solid ${colour("hairline")}`, py: 1 }}
          >
            <Link to={`/make/${batch.id}`}>
              {of === "all" && `${batch.name}, `}
              {dayOf(batch.begun_at)}
            </Link>
            {batch.ending && `, ${volume(batch.ending.made_ml)}`}
            {batch.rating != null && `, ${batch.rating} of 5`}
            {batch.ending?.note && (
              <Box component="span" sx={{ color: colour("muted") }}>
                {" "}
                {batch.ending.note}
              </Box>
            )}
          </Box>
        ))}
      </Box>
      {hasNextPage && <Button onClick={() => void fetchNextPage()}>Show more</Button>}
    </Box>
  );
}
