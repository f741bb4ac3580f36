import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ListSubheader from "@mui/material/ListSubheader";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useQuestion } from "../../api/ask";
import { answer, api, type Drink, type DrinkReport } from "../../api/client";
import { useDrinksToChoose, useStartingPoints } from "../../api/queries";
import { colour } from "../../ui/theme";
import { TitledDialog } from "../../ui/TitledDialog";
import { span, volume } from "../../ui/format";
import { Trouble } from "../../ui/Trouble";
import { keys } from "../../api/keys";

/** Two ways of making a drink, side by side, at the same size. */
export function Compare(props: { drink: Drink; report: DrinkReport; onClose: () => void }) {
  const { drink, report, onClose } = props;
  const { data: starts = [] } = useStartingPoints();
  const { data: shelf } = useDrinksToChoose();
  const [other, setOther] = useState("");
  const ml = report.profile?.volume_ml ?? 0;
  const {
    data: found,
    error,
    again,
  } = useQuestion(
    keys.compare(other, ml),
    async (signal) => {
      const start = starts.find((s) => `start:${s.id}` === other);
      const path = { params: { path: { id: other.slice("drink:".length) } }, signal };
      const whole = start ? start.drink : (await answer(api.GET("/api/drinks/{id}", path))).drink;
      const size = { volume: `${Math.round(ml)} ml` };
      const body = { drink: whole, size };
      const sized = await answer(api.POST("/api/compute/size", { body, signal }));
      const name = start ? `${start.group}: ${start.name.toLowerCase()}` : whole.name;
      return { name, report: sized.report };
    },
    other !== "" && ml > 0,
  );
  const groups = [...new Set(starts.map((s) => s.group))].filter((g) => g !== "Blank");
  return (
    <TitledDialog title="Compare two drinks" width={820} onClose={onClose}>
      <TextField
        select
        size="small"
        label="Compare with"
        value={other}
        onChange={(event) => setOther(event.target.value)}
      >
        {groups.flatMap((group) => [
          <ListSubheader key={group} sx={{ bgcolor: colour("enamel") }}>
            {group}
          </ListSubheader>,
          ...starts
            .filter((s) => s.group === group)
            .map((s) => (
              <MenuItem key={s.id} value={`start:${s.id}`}>
                {s.name}
              </MenuItem>
            )),
        ])}
        <ListSubheader sx={{ bgcolor: colour("enamel") }}>On the shelf</ListSubheader>
        {(shelf?.drinks ?? []).map((d) => (
          <MenuItem key={d.id} value={`drink:${d.id}`}>
            {d.name}
          </MenuItem>
        ))}
      </TextField>
      <Trouble error={error} again={again} />
      {found && <Table left={{ name: drink.name, report }} right={found} />}
      <Button onClick={onClose} sx={{ justifySelf: "end" }}>
        Close
      </Button>
    </TitledDialog>
  );
}

interface Side {
  name: string;
  report: DrinkReport;
}

function Table({ left, right }: { left: Side; right: Side }) {
  const cell = { p: 1, borderBottom: `1px solid ${colour("hairline")}`, verticalAlign: "top" };
  return (
    <Box component="table" sx={{ borderCollapse: "collapse", width: 1, fontSize: 14.5 }}>
      <thead>
        <tr>
          <Box component="td" sx={cell} />
          {[left, right].map((side, i) => (
            <Box
              component="th"
              key={i}
              scope="col"
              sx={{ ...cell, textAlign: "left", width: "40%" }}
            >
              {side.name}
            </Box>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows(left.report).map(([name, value], i) => (
          <tr key={name}>
            <Box
              component="th"
              scope="row"
              sx={{ ...cell, textAlign: "left", fontWeight: 500, color: colour("muted") }}
            >
              {name}
            </Box>
            <Box component="td" sx={cell}>
              {value}
            </Box>
            <Box component="td" sx={cell}>
              {rows(right.report)[i]![1]}
            </Box>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

/** How strong something in own units is, in a word. */
function word(value: number, clear: number, strong: number): string {
  if (value < clear / 4) return "hardly any";
  if (value < clear) return "faint";
  return value < strong ? "clear" : "strong";
}

function rows(report: DrinkReport): [string, string][] {
  const { profile, map, keeping } = report;
  if (!profile) return [];
  const band = map.point?.band ?? "no acid";
  const cautions = report.frames.flatMap((f) => f.cautions);
  const fruit = report.lines
    .filter((l) => !l.is_fill_line && !["water", "ice"].includes(l.ingredient))
    .map((l) => `${l.text} ${l.name.toLowerCase()}`);
  return [
    [
      "sweetness, acidity",
      `${profile.sweetness_percent.toFixed(1)} g, ${profile.acidity_percent.toFixed(2)} %`,
    ],
    ["ratio", `${profile.ratio?.toFixed(1) ?? "–"}, ${band}`],
    ["makes", volume(profile.volume_ml)],
    ["takes", fruit.join(", ")],
    ["aroma (est.)", word(profile.aroma_per_l, 20, 80)],
    ["bitterness (est.)", profile.bitterness_per_l >= 1 ? "can be tasted" : "none to taste"],
    ["in all", span(report.minutes)],
    ["work", span(report.hands_on_minutes)],
    ["keeping", keeping?.words ?? "–"],
    [
      "take care",
      cautions.length
        ? `${cautions.length}: ${[...new Set(cautions.map((c) => c.kind.replaceAll("_", " ")))].join(", ")}`
        : "nothing special",
    ],
  ];
}
