import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { lazy, Suspense, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { colour } from "../ui/theme";
import { NotThere } from "../ui/NotThere";
import { FindTasting } from "./FindTasting";
import { type TastingView, useTasting, useTastingActions } from "./queries";
import { RowTasting } from "./RowTasting";
import { Room } from "./Table";

const ChoiceTasting = lazy(() => import("./ChoiceTasting"));
const GuessTasting = lazy(() => import("./GuessTasting"));
const MatchTasting = lazy(() => import("./MatchTasting"));
const PitcherTasting = lazy(() => import("./PitcherTasting"));

/** A tasting that was set up. */
export default function TastingPage() {
  const { id = "" } = useParams();
  const { data: view, error, refetch } = useTasting(id);
  if (error && !view)
    return (
      <NotThere error={error} again={() => void refetch()} back="All tastings" backTo="/tasting" />
    );
  if (!view) return null;
  return (
    <Room>
      <Suspense>
        <About view={view} />
      </Suspense>
      <Foot view={view} />
    </Room>
  );
}

function About({ view }: { view: TastingView }) {
  const { about } = view;
  if ("ladder" in about) return <RowTasting view={view} row={about.ladder} />;
  if ("order" in about) return <RowTasting view={view} row={about.order} order />;
  if ("find" in about) return <FindTasting view={view} find={about.find} />;
  if ("compare" in about || "tongue" in about) return <ChoiceTasting view={view} />;
  if ("guess" in about) return <GuessTasting view={view} find={about.guess} />;
  if ("match" in about) return <MatchTasting view={view} match={about.match} />;
  return <PitcherTasting view={view} pitcher={about.pitcher} />;
}

/** What can be done with a tasting as a whole. */
function Foot({ view }: { view: TastingView }) {
  const { remove } = useTastingActions();
  const [sure, setSure] = useState(false);
  const go = useNavigate();
  const open = view.stage === "open" || view.stage === "over";
  return (
    <Box
      className="no-print"
      sx={{
        mt: 5,
        pt: 1,
        display: "flex",
        flexWrap: "wrap",
        gap: 1,
        borderTop: `1px solid ${colour("hairline")}`,
      }}
    >
      <Button component={Link} to="/tasting">
        All tastings
      </Button>
      {open && (
        <Button component="a" href={`/api/tastings/${view.id}/file`} download>
          Save as a file
        </Button>
      )}
      {!sure ? (
        <Button sx={{ color: colour("muted") }} onClick={() => setSure(true)}>
          Delete
        </Button>
      ) : (
        <Button
          color="error"
          variant="outlined"
          onClick={() => remove.mutate(view.id, { onSuccess: () => void go("/tasting") })}
        >
          Delete permanently, with all answers
        </Button>
      )}
    </Box>
  );
}
