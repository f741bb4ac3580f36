import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { Ellipsis } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { ShelfEntry } from "../api/client";
import { isLooking, type Sought, useShelf, useShelfActions } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { volume, when } from "../ui/format";
import { Empty } from "../ui/Empty";
import { Note } from "../ui/Note";
import { Standing } from "./Standing";
import { Damaged } from "./Damaged";
import { planks } from "../ui/planks";

const File = lazy(() => import("./File"));
const Rename = lazy(() => import("./Rename"));

/** So many stand on the start page. */
const SHORT = 12;

/** Drinks standing on shelves in their colours, with what can be done to each. */
export function Shelf({ sought, short = false }: { sought: Sought; short?: boolean }) {
  const [pages, setPages] = useState(1);
  const [renaming, setRenaming] = useState<ShelfEntry | undefined>();
  const [filing, setFiling] = useState<ShelfEntry | undefined>();
  const [gone, setGone] = useState<ShelfEntry | undefined>();
  const { data, error } = useShelf(sought, pages);
  const actions = useShelfActions();
  const go = useNavigate();
  const [wrong, setWrong] = useState<string | undefined>();
  const shown = short ? data?.drinks.slice(0, SHORT) : data?.drinks;
  const looking = isLooking(sought);
  const there = (data?.drinks.length ?? 0) + (data?.damaged.length ?? 0);

  return (
    <>
      {(error || wrong) && <Note kind="stop">{error?.message ?? wrong}</Note>}
      {data && there === 0 && looking && (
        <Empty>
          {sought.find && !sought.tag && (sought.with ?? []).length === 0
            ? `No drink is called “${sought.find}”.`
            : "No drinks match."}
        </Empty>
      )}
      <Box
        component="ul"
        sx={planks({
          narrowest: "min(170px, 44vw)",
          rowGap: 3,
          thick: { height: 7, bgcolor: colour("worktop") },
        })}
      >
        {shown?.map((entry) => (
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
            onFile={() => setFiling(entry)}
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
      {short && data && data.total > SHORT && (
        <Button component={Link} to="/drinks" sx={{ mt: 2 }}>
          All {data.total} drinks
        </Button>
      )}
      {!short && data && data.total > there && (
        <Button variant="outlined" sx={{ mt: 3 }} onClick={() => setPages(pages + 1)}>
          Show more ({data.total - there})
        </Button>
      )}
      <Suspense>
        {renaming && <Rename entry={renaming} onClose={() => setRenaming(undefined)} />}
        {filing && <File entry={filing} onClose={() => setFiling(undefined)} />}
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
            {gone.name} was deleted.
          </Box>
          <Button
            sx={{ color: colour("ground"), textDecoration: "underline", flexShrink: 0 }}
            onClick={() => actions.restore.mutate(gone.id, { onSuccess: () => setGone(undefined) })}
          >
            Undo
          </Button>
          <Button sx={{ color: colour("ground"), minWidth: 0 }} onClick={() => setGone(undefined)}>
            Close
          </Button>
        </Box>
      )}
    </>
  );
}

interface BottleProps {
  entry: ShelfEntry;
  onCopy: () => void;
  onRename: () => void;
  onFile: () => void;
  onRemove: () => void;
}

const PICTURE = { width: 150, height: 128 };

/** One drink as it stands on the shelf. */
function Bottle({ entry, onCopy, onRename, onFile, onRemove }: BottleProps) {
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
            {entry.volume_ml > 0 ? volume(entry.volume_ml) : "nothing added yet"}
            {entry.ratio != null && ` · ratio ${entry.ratio.toFixed(0)}`}
            {entry.band && ` · ${entry.band}`}
            <br />
            {madeSo(entry)}
            {entry.tags.length > 0 && <Box>{entry.tags.join(", ")}</Box>}
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
        <MenuItem onClick={choose(onFile)}>Edit tags</MenuItem>
        <MenuItem
          component="a"
          href={`/api/drinks/${entry.id}/file`}
          download={`${entry.name}.json`}
          onClick={() => setAnchor(null)}
        >
          Save as a file
        </MenuItem>
        {cards.map(([style, text, ending]) => (
          <MenuItem
            key={style}
            component="a"
            href={`/api/drinks/${entry.id}/card?style=${style}`}
            download={`${entry.name}.${ending}`}
            onClick={() => setAnchor(null)}
          >
            {text}
          </MenuItem>
        ))}
        <MenuItem onClick={choose(onRemove)}>Delete</MenuItem>
      </Menu>
    </Box>
  );
}

/** The ways to send a drink to somebody. */
const cards: [string, string, string][] = [
  ["text", "Card as text", "txt"],
  ["markdown", "Card as Markdown", "md"],
  ["json_ld", "Recipe for the web", "jsonld"],
];

/** "made 4 times, last on 3 Jun, liked 4.5 of 5". */
function madeSo(entry: ShelfEntry): string {
  if (entry.made === 0) return `not made yet · ${when(entry.changed_at)}`;
  const times = entry.made === 1 ? "once" : entry.made === 2 ? "twice" : `${entry.made} times`;
  const liked = entry.rating != null ? ` · liked ${entry.rating.toFixed(1)} of 5` : "";
  return `made ${times}${liked}`;
}
