import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { answer, api, type Schemas } from "../api/client";
import { offered, useIngredients } from "../api/queries";
import { Radios } from "../ui/Radios";
import { TitledDialog } from "../ui/TitledDialog";
import { colour } from "../ui/theme";
import { MarkSign, marks } from "./Mark";
import { type Taster, type TasterView, useTasterActions } from "./queries";
import { idealLine, percent } from "./words";

type Avoid = Schemas["Avoid"];

const avoided: [Avoid, string][] = [
  ["alcohol", "alcohol"],
  ["honey", "honey"],
  ["milk", "milk"],
];

/** A sheet for who tastes: their name, what they don't take, and what is kept of them. */
export function TasterSheet({ view, onClose }: { view?: TasterView; onClose: () => void }) {
  const { add, change, remove } = useTasterActions();
  const [taster, setTaster] = useState<Taster>(view?.taster ?? { name: "" });
  const [sure, setSure] = useState(false);
  const [left, setLeft] = useState<string[]>([]);
  const deleteLeft = async () => {
    const gone = left.map((name) =>
      answer(api.DELETE("/api/house/backups/{name}", { params: { path: { name } } })),
    );
    await Promise.allSettled(gone);
    onClose();
  };
  const { data: ingredients } = useIngredients();
  const set = (part: Partial<Taster>) => setTaster((old) => ({ ...old, ...part }));
  const avoids = taster.avoids ?? [];
  const has = (what: Avoid) => avoids.some((a) => JSON.stringify(a) === JSON.stringify(what));
  const toggle = (what: Avoid) =>
    set({
      avoids: has(what)
        ? avoids.filter((a) => JSON.stringify(a) !== JSON.stringify(what))
        : [...avoids, what],
    });
  const wrong = add.error ?? change.error ?? remove.error;
  const keep = () => {
    if (view) change.mutate({ id: view.id, body: taster }, { onSuccess: onClose });
    else add.mutate(taster, { onSuccess: onClose });
  };
  const sweeteners = offered(ingredients ?? []).filter((it) => it.kind === "sweetener");
  const others = avoids.flatMap((a) => (typeof a === "string" ? [] : [a.ingredient]));
  return (
    <TitledDialog title={view ? view.taster.name : "Add a taster"} width={520} onClose={onClose}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
        sx={{ display: "grid", gap: 2 }}
      >
        <TextField
          size="small"
          label="Name or nickname"
          value={taster.name}
          autoFocus
          onChange={(event) => set({ name: event.target.value })}
          slotProps={{ htmlInput: { maxLength: 60, dir: "auto" } }}
        />
        <Radios label="Sign" sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
          {marks.map((mark) => (
            <Box
              key={mark}
              component="button"
              type="button"
              role="radio"
              aria-checked={(taster.mark ?? "drop") === mark}
              aria-label={mark}
              onClick={() => set({ mark })}
              sx={{
                width: 46,
                height: 46,
                borderRadius: "12px",
                display: "grid",
                placeItems: "center",
                cursor: "pointer",
                bgcolor: colour((taster.mark ?? "drop") === mark ? "wash" : "enamel"),
                border: `2px solid ${colour((taster.mark ?? "drop") === mark ? "cobalt" : "hairline")}`,
              }}
            >
              <MarkSign mark={mark} size={22} />
            </Box>
          ))}
        </Radios>
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
          <Box component="legend" sx={{ fontWeight: 600, mb: 0.5 }}>
            Avoids
          </Box>
          <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 2 }}>
            {avoided.map(([what, name]) => (
              <FormControlLabel
                key={name}
                control={<Checkbox checked={has(what)} onChange={() => toggle(what)} />}
                label={name}
              />
            ))}
          </Box>
          <TextField
            select
            size="small"
            fullWidth
            label="or a sweetener"
            value=""
            onChange={(event) => event.target.value && toggle({ ingredient: event.target.value })}
            slotProps={{ select: { native: true } }}
            sx={{ mt: 1 }}
          >
            <option value=""></option>
            {sweeteners.map((it) => (
              <option key={it.id} value={it.id}>
                {it.name}
              </option>
            ))}
          </TextField>
          {others.map((id) => (
            <Button key={id} onClick={() => toggle({ ingredient: id })} sx={{ mt: 0.5 }}>
              {sweeteners.find((it) => it.id === id)?.name ?? id}: has it again
            </Button>
          ))}
        </Box>
        <FormControlLabel
          control={
            <Checkbox
              checked={taster.child ?? false}
              onChange={(event) => set({ child: event.target.checked })}
            />
          }
          label="Child: no alcohol"
        />
        {(taster.notices_sweet || taster.notices_sour) && (
          <Box sx={{ color: colour("muted") }}>
            Notices{" "}
            {[
              taster.notices_sweet &&
                `${percent(taster.notices_sweet.part)} of sweetness (${percent(taster.notices_sweet.low)} to ${percent(taster.notices_sweet.high)})`,
              taster.notices_sour &&
                `${percent(taster.notices_sour.part)} of acidity (${percent(taster.notices_sour.low)} to ${percent(taster.notices_sour.high)})`,
            ]
              .filter(Boolean)
              .join(" and ")}
            .
          </Box>
        )}
        {wrong && (
          <Box role="alert" sx={{ color: colour("stop") }}>
            {wrong.message}
          </Box>
        )}
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
          <Button type="submit" variant="contained">
            {view ? "Save" : "Add"}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
          {view && (
            <>
              <Box sx={{ flex: 1 }} />
              <Button component="a" href={`/api/tasters/${view.id}/file`} download>
                Save everything
              </Button>
              <Button sx={{ color: colour("stop") }} onClick={() => setSure(true)}>
                Delete permanently
              </Button>
            </>
          )}
        </Box>
        {left.length > 0 && (
          <Box role="alert" sx={{ display: "grid", gap: 1 }}>
            Deleted. We couldn’t change these backups, which still contain the name:{" "}
            {left.join(", ")}.
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
              <Button variant="outlined" color="error" onClick={() => void deleteLeft()}>
                Delete these backups
              </Button>
              <Button onClick={onClose}>Keep them</Button>
            </Box>
          </Box>
        )}
        {sure && view && left.length === 0 && (
          <Box
            role="alert"
            sx={{
              p: 1.5,
              borderRadius: "10px",
              bgcolor: colour("stopWash"),
              display: "grid",
              gap: 1,
            }}
          >
            This deletes {view.taster.name} and all their answers, also from the backups on this
            computer. You can’t undo it. Files that you saved elsewhere keep the name.
            <Box>
              <Button
                variant="outlined"
                color="error"
                onClick={() =>
                  remove.mutate(view.id, {
                    onSuccess: ({ still_in }) =>
                      still_in.length > 0 ? setLeft(still_in) : onClose(),
                  })
                }
              >
                Delete {view.taster.name}
              </Button>
            </Box>
          </Box>
        )}
      </Box>
    </TitledDialog>
  );
}

/** Everybody who tastes, each with what is known of them. */
export function TasterList({ tasters }: { tasters: TasterView[] }) {
  const [open, setOpen] = useState<TasterView | "new" | undefined>();
  return (
    <>
      <Box
        component="ul"
        sx={{
          listStyle: "none",
          m: 0,
          p: 0,
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(min(280px, 100%), 1fr))",
          gap: 1,
        }}
      >
        {tasters.map((view) => (
          <li key={view.id}>
            <Box
              component="button"
              type="button"
              onClick={() => setOpen(view)}
              sx={{
                font: "inherit",
                color: "inherit",
                textAlign: "left",
                width: "100%",
                height: "100%",
                minHeight: 60,
                display: "flex",
                alignItems: "center",
                gap: 1.5,
                px: 1.75,
                py: 1,
                border: 0,
                borderRadius: "12px",
                bgcolor: colour("enamel"),
                cursor: "pointer",
              }}
            >
              <MarkSign mark={view.taster.mark} size={22} />
              <Box sx={{ minWidth: 0 }}>
                <Box sx={{ fontWeight: 600, overflowWrap: "anywhere" }} dir="auto">
                  {view.taster.name}
                  {view.taster.child && (
                    <Box component="span" sx={{ color: colour("muted"), fontWeight: 500 }}>
                      {" "}
                      child
                    </Box>
                  )}
                </Box>
                <Box sx={{ fontSize: 14, color: colour("muted") }}>{idealLine(view)}</Box>
              </Box>
            </Box>
          </li>
        ))}
        <li>
          <Button
            variant="outlined"
            onClick={() => setOpen("new")}
            sx={{ width: "100%", minHeight: 60, justifyContent: "flex-start" }}
          >
            Add a taster
          </Button>
        </li>
      </Box>
      {open && (
        <TasterSheet
          {...(open === "new" ? {} : { view: open })}
          onClose={() => setOpen(undefined)}
        />
      )}
    </>
  );
}
