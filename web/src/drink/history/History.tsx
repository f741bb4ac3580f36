import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { answer, api, type Drink, type DrinkReport, type HistoryView } from "../../api/client";
import { colour, displayFont } from "../../ui/theme";
import { Trouble } from "../../ui/Trouble";
import { MapPlate } from "../balance/MapPlate";
import type { Editor } from "../editing/editor";
import { BatchTable } from "./BatchTable";
import { Versions } from "./Versions";
import { AllBatches } from "./AllBatches";
import { placesOf, useVersions } from "./useVersions";
import { dayOf } from "./words";
import { again, keys } from "../../api/keys";

const heading = { ...displayFont, fontSize: 21, fontWeight: 700, m: 0 } as const;

interface HistoryProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
}

/** What became of the drink: its batches beside what is written, what they say, and its earlier states. */
export default function History({ editor, drink, report }: HistoryProps) {
  const { id = "" } = useParams();
  const { data, error, refetch } = useQuery({
    queryKey: keys.history(id),
    queryFn: () => answer(api.GET("/api/drinks/{id}/history", { params: { path: { id } } })),
    staleTime: 0,
  });
  const [chosen, setChosen] = useState<string[] | undefined>();
  const batches = data?.batches ?? [];
  const shown = chosen ?? batches.slice(0, 3).map((b) => b.id);
  const versions = useVersions(id, editor).data ?? [];
  const [onMap, setOnMap] = useState<number[] | undefined>();
  const places = placesOf(versions, onMap);
  const shownVersions = places.map((place) => Number(place.id));
  const past = batches
    .filter((b) => shown.includes(b.id))
    .flatMap((b) => (b.ended ? [{ id: b.id, name: dayOf(b.begun_at), spot: b.ended }] : []));
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(300px, 400px) minmax(0, 1fr)" },
        gap: { xs: 3, md: 5 },
        px: { xs: 2, md: 3.5 },
        pb: 4,
        alignItems: "start",
      }}
    >
      <Box>
        <MapPlate
          map={report.map}
          colour={report.profile?.colour}
          name={drink.name}
          past={past}
          versions={places}
        />
        {past.length + places.length > 0 && (
          <Box sx={{ color: colour("muted"), fontSize: 14 }}>
            {[
              past.length > 0 && "circles are batches",
              places.length > 0 && "diamonds are versions",
            ]
              .filter(Boolean)
              .join(", ")}
          </Box>
        )}
        {data?.figures_changed && <FiguresChanged id={id} told={data.figures_changed} />}
        {data && <Says data={data} editor={editor} id={id} />}
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Trouble error={error ?? undefined} again={() => void refetch()} />
        <Box component="section" aria-label="Batches">
          <Box component="h2" sx={heading}>
            Batches
          </Box>
          {data && batches.length === 0 && (
            <Box sx={{ py: 1.5, maxWidth: 520 }}>
              You haven’t made this yet. When you do, you’ll see here what you used and measured
              next to the recipe.{" "}
              <Button component={Link} to={`/drinks/${id}/make`} replace>
                Make it
              </Button>
            </Box>
          )}
          {batches.length > 0 && data && (
            <BatchTable
              batches={batches.filter((b) => shown.includes(b.id))}
              written={data.written}
            />
          )}
          {batches.length > 1 && (
            <Box
              role="group"
              aria-label="Side by side"
              sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, mt: 1 }}
            >
              {batches.map((b) => {
                const on = shown.includes(b.id);
                return (
                  <Button
                    key={b.id}
                    aria-pressed={on}
                    onClick={() =>
                      setChosen(on ? shown.filter((i) => i !== b.id) : [...shown, b.id].slice(-5))
                    }
                    sx={{
                      borderRadius: 99,
                      minHeight: 44,
                      px: 1.5,
                      bgcolor: on ? colour("wash") : "transparent",
                      color: colour(on ? "ink" : "muted"),
                    }}
                  >
                    {dayOf(b.begun_at)}
                  </Button>
                );
              })}
            </Box>
          )}
          {data && data.total > 0 && <AllBatches id={id} total={data.total} />}
        </Box>
        <Versions
          id={id}
          editor={editor}
          onMap={shownVersions}
          onShow={(version) =>
            setOnMap(
              shownVersions.includes(version)
                ? shownVersions.filter((v) => v !== version)
                : [...shownVersions, version].slice(-6),
            )
          }
        />
      </Box>
    </Box>
  );
}

/** Told once: better tables gave this drink other figures. */
function FiguresChanged({ id, told }: { id: string; told: string }) {
  const queries = useQueryClient();
  const read = useMutation({
    mutationFn: () =>
      answer(api.DELETE("/api/drinks/{id}/figures-changed", { params: { path: { id } } })),
    onSuccess: () => again(queries, keys.history(id)),
  });
  return (
    <Box
      role="status"
      sx={{ bgcolor: colour("wash"), borderRadius: "12px", p: 1.75, mt: 2, fontSize: 15 }}
    >
      {told}{" "}
      <Button onClick={() => read.mutate()} sx={{ minHeight: 44 }}>
        OK
      </Button>
      <Trouble error={read.error ?? undefined} />
    </Box>
  );
}

interface SaysProps {
  data: HistoryView;
  editor: Editor;
  id: string;
}

/** What comes again and again, with what can be done about it. */
function Says({ data, editor, id }: SaysProps) {
  const go = useNavigate();
  if (data.says.length === 0 && data.readings === 0) return null;
  return (
    <Box component="section" aria-label="What your batches show" sx={{ mt: 3 }}>
      <Box component="h2" sx={heading}>
        What your batches show
      </Box>
      {data.says.length === 0 && <Box sx={{ color: colour("muted") }}>No patterns yet.</Box>}
      {data.says.map((one) => (
        <Box key={one.message} sx={{ py: 0.5 }}>
          {one.message}{" "}
          {one.aim && (
            <Button
              sx={{ minHeight: 36, px: 0.5 }}
              onClick={() => void go(`/drinks/${id}`, { state: { ring: one.aim } })}
            >
              Set as target
            </Button>
          )}
          {one.write_minutes && (
            <Button
              sx={{ minHeight: 36, px: 0.5 }}
              onClick={() => {
                const { step, minutes } = one.write_minutes!;
                editor.edit((drink) => withMinutes(drink, step, minutes));
              }}
            >
              Write {one.write_minutes.minutes} min
            </Button>
          )}
        </Box>
      ))}
      {data.readings > 0 && (
        <Box sx={{ color: colour("muted"), fontSize: 14.5, mt: 0.5 }}>
          {data.inside} of {data.readings} readings were within the expected range.
        </Box>
      )}
    </Box>
  );
}

/** The drink with another time in one of its steps. */
function withMinutes(drink: Drink, step: string, minutes: number): Drink {
  return {
    ...drink,
    steps: drink.steps.map((one) => {
      if (one.id !== step) return one;
      const [[what, how]] = Object.entries(one.do) as [[string, object]];
      return { ...one, do: { [what]: { ...how, minutes } } as (typeof one)["do"] };
    }),
  };
}
