import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { answer, api, type Drink, type Lesson } from "../../api/client";
import { useKitchen } from "../../api/queries";
import { colour } from "../../app/theme";

/** What was measured after a step, and what this kitchen learns from it. */
export function MeasuredVolume(props: { drink: Drink; step: string }) {
  const { drink, step } = props;
  const [text, setText] = useState("");
  const [lesson, setLesson] = useState<Lesson | undefined>();
  const [said, setSaid] = useState<string | undefined>();
  const { change } = useKitchen();
  const look = async () => {
    setSaid(undefined);
    try {
      setLesson(
        await answer(api.POST("/api/compute/measured", { body: { drink, step, volume: text } })),
      );
    } catch (error) {
      setLesson(undefined);
      setSaid((error as Error).message);
    }
  };
  const keep = async () => {
    if (!lesson) return;
    const taught = lesson.taught;
    const to = Math.round(lesson.to * 100) / 100;
    const wrong = await change((k) =>
      taught === "boil_off"
        ? { ...k, boil_off: to }
        : {
            ...k,
            figures: {
              ...k.figures,
              [taught.keeps]: { ...k.figures?.[taught.keeps], keeps: to },
            },
          },
    );
    setSaid(wrong ?? "Kept as your own figure. You find it in the cupboard.");
    setLesson(undefined);
  };
  return (
    <Box>
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          void look();
        }}
        sx={{ display: "flex", gap: 1 }}
      >
        <TextField
          size="small"
          label="Measured after this"
          placeholder="1.62 l"
          value={text}
          onChange={(event) => setText(event.target.value)}
          sx={{ flex: 1 }}
        />
        <Button type="submit" variant="outlined" disabled={text.trim() === ""}>
          Learn
        </Button>
      </Box>
      {lesson && (
        <Box sx={{ mt: 1, fontSize: 14 }}>
          {lesson.message}
          <Button variant="contained" onClick={() => void keep()} sx={{ mt: 1, display: "block" }}>
            Use my figure from now on
          </Button>
        </Box>
      )}
      {said && (
        <Box role="status" sx={{ mt: 1, fontSize: 14, color: colour("ink") }}>
          {said}
        </Box>
      )}
    </Box>
  );
}
