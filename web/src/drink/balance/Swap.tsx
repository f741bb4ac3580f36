import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useAsked } from "../../api/ask";
import {
  answer,
  api,
  asking,
  type Drink,
  type Ingredient,
  type LineReport,
  type Swapped,
} from "../../api/client";
import { findIngredients, offered, useIngredients } from "../../api/queries";
import { colour } from "../../ui/theme";
import { TitledDialog } from "../../ui/TitledDialog";
import type { Editor } from "../editing/editor";

interface SwapProps {
  editor: Editor;
  drink: Drink;
  line: LineReport;
  onClose: () => void;
}

/** Another ingredient in the place of one, at equal sweetness and acidity. */
export function Swap({ editor, drink, line, onClose }: SwapProps) {
  const { data: all = [] } = useIngredients();
  const [text, setText] = useState("");
  const {
    found: swapped,
    wrong,
    ask,
    forget,
  } = useAsked<{ it: Ingredient; result: Swapped }, Drink>(drink);
  const old = all.find((it) => it.id === line.ingredient);
  const candidates = old
    ? findIngredients(
        offered(all).filter((it) => it.id !== old.id && it.role === old.role),
        text,
      )
    : [];
  const look = (it: Ingredient) =>
    ask(async (signal, drink) => {
      const body = { drink, step: line.step, ingredient: it.id };
      const headers = asking("swap");
      const result = await answer(api.POST("/api/compute/swap", { body, headers, signal }));
      return { it, result };
    });
  return (
    <TitledDialog
      title={
        <>
          Replace {line.text} {line.name.toLowerCase()}
        </>
      }
      width={560}
      onClose={onClose}
    >
      {swapped ? (
        <Box role="region" aria-label="Swapped" sx={{ display: "grid", gap: 1 }}>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {swapped.result.solution.rounded.steps
              .filter((s) => s.id === line.step)
              .map((s) => (
                <li key={s.id}>
                  <strong>{amountOf(s.do)}</strong> {swapped.it.name.toLowerCase()}
                </li>
              ))}
            {swapped.result.solution.moved
              .filter((m) => m.step !== line.step)
              .map((m) => (
                <li key={m.step}>
                  {m.name}: {m.from} → <strong>{m.to}</strong>
                </li>
              ))}
            {swapped.result.changes.map((change) => (
              <li key={change}>{change}</li>
            ))}
          </Box>
          {!swapped.result.solution.reached && (
            <Box
              sx={{
                bgcolor: colour("notice"),
                color: colour("onNotice"),
                p: 1.25,
                borderRadius: "10px",
                fontSize: 14,
              }}
            >
              This isn't an exact match. {swapped.result.solution.stops.join(" ")}
            </Box>
          )}
          <Box sx={{ display: "flex", gap: 1, justifyContent: "flex-end" }}>
            <Button onClick={() => forget()}>Another one</Button>
            <Button
              variant="contained"
              onClick={() => {
                const { steps } = swapped.result.solution.rounded;
                editor.edit((d) => ({ ...d, steps }));
                onClose();
              }}
            >
              Replace
            </Button>
          </Box>
        </Box>
      ) : (
        <>
          <TextField
            autoFocus
            size="small"
            label="Find in the cupboard"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <Box
            component="ul"
            sx={{ listStyle: "none", m: 0, p: 0, maxHeight: 320, overflowY: "auto" }}
          >
            {candidates.map((it) => (
              <li key={it.id}>
                <Button
                  fullWidth
                  onClick={() => void look(it)}
                  sx={{ justifyContent: "flex-start", color: colour("ink"), minHeight: 44 }}
                >
                  {it.name}
                </Button>
              </li>
            ))}
            {candidates.length === 0 && (
              <Box component="li" sx={{ color: colour("muted"), p: 1 }}>
                No substitute in your cupboard.
              </Box>
            )}
          </Box>
          <Button onClick={onClose} sx={{ justifySelf: "end" }}>
            Cancel
          </Button>
        </>
      )}
      {wrong && (
        <Box role="alert" sx={{ color: colour("stop") }}>
          {wrong}
        </Box>
      )}
    </TitledDialog>
  );
}

function amountOf(action: Drink["steps"][number]["do"]): string {
  const part = Object.values(action)[0] as { amount?: string; to?: string };
  return part.amount ?? part.to ?? "";
}
