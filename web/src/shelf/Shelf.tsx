import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Ellipsis } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { ShelfEntry } from "../api/client";
import { useShelf, useShelfActions, useStartingPoints } from "../api/queries";
import { colour, displayFont } from "../app/theme";
import { volume, when } from "../ui/format";
import { Note } from "../ui/Note";
import { OnTheGo } from "./OnTheGo";
import { Standing } from "./Standing";
import { Damaged } from "./Damaged";

const Bin = lazy(() => import("./Bin"));
const NewDrink = lazy(() => import("./NewDrink"));
const Rename = lazy(() => import("./Rename"));

/** All drinks, standing on shelves in their colours. */
export function Shelf() {
  const [find, setFind] = useState("");
  const [adding, setAdding] = useState(false);
  const [binOpen, setBinOpen] = useState(false);
  const [renaming, setRenaming] = useState<ShelfEntry | undefined>();
  const [gone, setGone] = useState<ShelfEntry | undefined>();
  const { data, error } = useShelf(find);
  const actions = useShelfActions();
  const go = useNavigate();
  const [wrong, setWrong] = useState<string | undefined>();

  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 10, flex: 1 }}>
      <Box
        sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 2, mb: 2.5, mt: 0.5 }}
      >
        <Box
          component="h1"
          sx={{ ...displayFont, fontSize: 34, fontWeight: 700, letterSpacing: "-0.02em", m: 0 }}
        >
          Drinks
        </Box>
        <TextField
          size="small"
          label="Find a drink"
          type="search"
          value={find}
          onChange={(event) => setFind(event.target.value)}
          sx={{ flex: { xs: "1 1 100%", sm: "0 1 300px" }, order: { xs: 3, sm: 0 } }}
        />
        <Box sx={{ flex: 1 }} />
        <Button onClick={() => setBinOpen(true)}>Bin</Button>
        <Button variant="contained" onClick={() => setAdding(true)}>
          New drink
        </Button>
      </Box>
      {find === "" && <OnTheGo />}
      {(error || wrong) && <Note kind="stop">{error?.message ?? wrong}</Note>}
      {data && data.drinks.length + data.damaged.length === 0 && (
        <Box sx={{ py: 6, color: colour("muted"), fontSize: 17 }}>
          {find ? (
            `No drink on the shelf has “${find}” in its name.`
          ) : (
            <EmptyShelf onBegin={() => setAdding(true)} />
          )}
        </Box>
      )}
      <Box
        component="ul"
        sx={{
          listStyle: "none",
          m: 0,
          p: 0,
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(min(170px, 44vw), 1fr))",
          rowGap: 3,
          overflowX: "clip",
          // The last shelf goes on to the wall, however few stand on it.
          "& > li:last-of-type .plank::after": {
            content: '""',
            position: "absolute",
            left: "100%",
            top: -2,
            width: "100vw",
            height: 7,
            bgcolor: colour("worktop"),
            borderTop: `2px solid ${colour("ink")}`,
          },
        }}
      >
        {data?.drinks.map((entry) => (
          <Bottle
            key={entry.id}
            entry={entry}
            onCopy={() =>
              actions.copy.mutate(entry.id, {
                onSuccess: (made) => void go(`/drinks/${made.id}`),
                onError: (fault) => setWrong(fault.message),
              })
            }
            onRename={() => setRenaming(entry)}
            onRemove={() =>
              actions.remove.mutate(entry.id, {
                onSuccess: () => setGone(entry),
                onError: (fault) => setWrong(fault.message),
              })
            }
          />
        ))}
      </Box>
      {data && <Damaged drinks={data.damaged} />}
      {data && data.total > data.drinks.length + data.damaged.length && (
        <Box sx={{ mt: 3, color: colour("muted") }}>
          {data.total - data.drinks.length - data.damaged.length} more. Type part of a name to find
          them.
        </Box>
      )}
      <Suspense>{binOpen && <Bin onClose={() => setBinOpen(false)} />}</Suspense>
      <Suspense>{adding && <NewDrink onClose={() => setAdding(false)} />}</Suspense>
      <Suspense>
        {renaming && <Rename entry={renaming} onClose={() => setRenaming(undefined)} />}
      </Suspense>
      {gone && (
        <Box
          role="status"
          sx={{
            position: "fixed",
            left: "50%",
            bottom: 20,
            transform: "translateX(-50%)",
            display: "flex",
            alignItems: "center",
            gap: 1.5,
            px: 2.5,
            py: 0.75,
            borderRadius: "12px",
            bgcolor: colour("ink"),
            color: colour("ground"),
            maxWidth: "calc(100vw - 32px)",
          }}
        >
          <Box
            component="span"
            sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
          >
            {gone.name} is in the bin.
          </Box>
          <Button
            sx={{ color: colour("ground"), textDecoration: "underline", flexShrink: 0 }}
            onClick={() => actions.restore.mutate(gone.id, { onSuccess: () => setGone(undefined) })}
          >
            Put back
          </Button>
          <Button sx={{ color: colour("ground"), minWidth: 0 }} onClick={() => setGone(undefined)}>
            Close
          </Button>
        </Box>
      )}
    </Box>
  );
}

interface BottleProps {
  entry: ShelfEntry;
  onCopy: () => void;
  onRename: () => void;
  onRemove: () => void;
}

const PICTURE = { width: 150, height: 128 };

/** One drink as it stands on the shelf. */
function Bottle({ entry, onCopy, onRename, onRemove }: BottleProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const choose = (act: () => void) => () => {
    setAnchor(null);
    act();
  };
  return (
    <Box component="li" sx={{ position: "relative", minWidth: 0 }} data-drink={entry.name}>
      <Box
        component={Link}
        to={`/drinks/${entry.id}`}
        sx={{
          display: "block",
          color: colour("ink"),
          textDecoration: "none",
          borderRadius: "8px",
          "&:hover h2, &:focus-visible h2": { color: colour("cobalt") },
        }}
      >
        <Box sx={{ display: "grid", placeItems: "center" }}>
          <Standing of={entry} width={PICTURE.width} height={PICTURE.height} />
        </Box>
        <Box
          className="plank"
          sx={{
            position: "relative",
            height: 7,
            bgcolor: colour("worktop"),
            borderTop: `2px solid ${colour("ink")}`,
          }}
        />
        <Box sx={{ pt: 1, pr: 5, pl: 0.5 }}>
          <Box
            component="h2"
            sx={{
              ...displayFont,
              fontSize: 17,
              fontWeight: 700,
              lineHeight: 1.2,
              m: 0,
              overflowWrap: "anywhere",
              display: "-webkit-box",
              WebkitLineClamp: 3,
              WebkitBoxOrient: "vertical",
              overflow: "hidden",
            }}
          >
            {entry.name}
          </Box>
          <Box sx={{ fontSize: 13.5, color: colour("muted"), mt: 0.5 }}>
            {entry.volume_ml > 0 ? volume(entry.volume_ml) : "nothing in it yet"}
            {entry.ratio != null && ` · ratio ${entry.ratio.toFixed(0)}`}
            <br />
            {entry.band && `${entry.band} · `}
            {when(entry.changed_at)}
          </Box>
        </Box>
      </Box>
      <Button
        aria-label={`More for ${entry.name}`}
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{
          position: "absolute",
          right: 8,
          top: PICTURE.height + 12,
          minWidth: 44,
          minHeight: 44,
          p: 0,
          color: colour("muted"),
        }}
      >
        <Ellipsis size={20} aria-hidden />
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem onClick={choose(onCopy)}>Make a copy</MenuItem>
        <MenuItem onClick={choose(onRename)}>Rename</MenuItem>
        <MenuItem
          component="a"
          href={`/api/drinks/${entry.id}/file`}
          download={`${entry.name}.json`}
          onClick={() => setAnchor(null)}
        >
          Save as a file
        </MenuItem>
        <MenuItem onClick={choose(onRemove)}>Remove</MenuItem>
      </Menu>
    </Box>
  );
}

/** The kinds of drink that are shown on an empty shelf. */
const SHOWN_EMPTY = 4;

/** An empty shelf shows what could stand on it. */
function EmptyShelf({ onBegin }: { onBegin: () => void }) {
  const { data: starts = [] } = useStartingPoints();
  const groups = [...new Set(starts.map((start) => start.group))];
  const one = groups
    .flatMap((group) => starts.find((s) => s.group === group && s.makes.volume_ml > 0) ?? [])
    .slice(0, SHOWN_EMPTY);
  return (
    <Box sx={{ color: colour("ink"), maxWidth: 760 }}>
      <Box component="p" sx={{ m: 0, mb: 2 }}>
        Nothing stands here yet. Say what you do, in cups, spoons and pieces of fruit: you see at
        once where the drink lies between tart and sweet, how full each pot gets, and what all of
        that is for a party.
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 3, mb: 2 }}>
        {one.map((start) => (
          <Box key={start.id} sx={{ width: 150, textAlign: "center" }}>
            <Box sx={{ display: "grid", placeItems: "center" }}>
              <Standing of={start.makes} width={110} height={96} />
            </Box>
            <Box sx={{ height: 6, bgcolor: colour("worktop"), borderTop: `2px solid` }} />
            <Box sx={{ fontSize: 14, mt: 0.75 }}>
              {start.group}: {start.name.toLowerCase()}
            </Box>
          </Box>
        ))}
      </Box>
      <Button variant="contained" onClick={onBegin}>
        Put a first drink on the shelf
      </Button>
    </Box>
  );
}
