import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { lazy, Suspense, useState } from "react";
import { isLooking, offered, type Sought, useIngredients, useShelf, useTags } from "../api/queries";
import { colour } from "../ui/theme";
import { useSettled } from "../ui/useSettled";
import { Empty } from "../ui/Empty";
import { StartingPoints } from "./StartingPoints";
import { Begin } from "./Begin";
import { Shelf } from "./Shelf";
import { PageTitle } from "../ui/PageTitle";

const Bin = lazy(() => import("./Bin"));
const House = lazy(() => import("../house/House"));

const orders: [NonNullable<Sought["sort"]>, string][] = [
  ["changed", "last changed"],
  ["name", "by name"],
  ["made", "last made"],
  ["rating", "best liked"],
];

/** All drinks: found by name, word and what is in them; sorted; the bin and the whole house's backup. */
export default function Drinks() {
  const [find, setFind] = useState("");
  const [sort, setSort] = useState<NonNullable<Sought["sort"]>>("changed");
  const [tag, setTag] = useState<string | undefined>();
  const [inIt, setInIt] = useState<{ id: string; name: string }[]>([]);
  const [open, setOpen] = useState<"bin" | "house" | undefined>();
  const { data: tags = [] } = useTags();
  const { data: ingredients = [] } = useIngredients();
  const settled = useSettled(find, 150);
  const sought: Sought = { find: settled, tag, with: inIt.map((it) => it.id), sort };
  // The same question as the shelf's own, so that it is asked once.
  const { data, isPlaceholderData } = useShelf(sought);
  const empty = !isLooking(sought) && !isPlaceholderData && data?.total === 0;
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 10, flex: 1 }}>
      <Box
        sx={{
          display: "flex",
          flexWrap: "wrap",
          alignItems: "center",
          gap: { xs: 0.5, sm: 2 },
          mt: 0.5,
        }}
      >
        <PageTitle>Drinks</PageTitle>
        <Box sx={{ flex: 1 }} />
        <Button onClick={() => setOpen("bin")}>Deleted drinks</Button>
        <Button onClick={() => setOpen("house")}>Backup</Button>
        <Begin />
      </Box>
      {empty && (
        <>
          <Empty>No drinks yet. Choose a recipe to start with, or paste your own.</Empty>
          <StartingPoints />
        </>
      )}
      <Box
        sx={{
          display: empty ? "none" : "flex",
          flexWrap: "wrap",
          alignItems: "center",
          gap: 1.5,
          mt: 1.5,
        }}
      >
        <TextField
          size="small"
          label="Find a drink"
          type="search"
          value={find}
          onChange={(event) => setFind(event.target.value)}
          sx={{ flex: { xs: "1 1 100%", sm: "0 1 240px" } }}
        />
        <Autocomplete
          multiple
          size="small"
          options={offered(ingredients)}
          value={inIt as typeof ingredients}
          getOptionLabel={(it) => it.name}
          isOptionEqualToValue={(a, b) => a.id === b.id}
          onChange={(_, chosen) => setInIt(chosen.slice(0, 6))}
          limitTags={2}
          renderInput={(params) => <TextField {...params} label="With these ingredients" />}
          sx={{ flex: { xs: "1 1 50%", sm: "0 1 320px" }, minWidth: 0 }}
        />
        <TextField
          select
          size="small"
          label="Order"
          value={sort}
          onChange={(event) => setSort(event.target.value as typeof sort)}
          sx={{ flex: { xs: "0 1 150px", sm: "0 0 auto" }, minWidth: 150 }}
        >
          {orders.map(([value, text]) => (
            <MenuItem key={value} value={value}>
              {text}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {tags.length > 0 && (
        <Box
          role="group"
          aria-label="Tags"
          sx={{
            display: "flex",
            flexWrap: { xs: "nowrap", sm: "wrap" },
            overflowX: { xs: "auto", sm: "visible" },
            scrollbarWidth: "none",
            gap: 0.5,
            mt: 1,
            mb: 1,
          }}
        >
          {tags.map((one) => {
            const here = one.tag === tag;
            return (
              <Button
                key={one.tag}
                aria-pressed={here}
                onClick={() => setTag(here ? undefined : one.tag)}
                sx={{
                  borderRadius: 99,
                  minHeight: 44,
                  flex: "none",
                  px: 1.75,
                  bgcolor: here ? colour("ink") : "transparent",
                  color: colour(here ? "ground" : "muted"),
                  "&:hover": { bgcolor: colour(here ? "ink" : "wash") },
                }}
              >
                {one.tag} · {one.drinks}
              </Button>
            );
          })}
        </Box>
      )}
      <Box sx={{ mt: 2 }}>
        <Shelf sought={sought} />
      </Box>
      <Suspense>
        {open === "bin" && <Bin onClose={() => setOpen(undefined)} />}
        {open === "house" && <House onClose={() => setOpen(undefined)} />}
      </Suspense>
    </Box>
  );
}
