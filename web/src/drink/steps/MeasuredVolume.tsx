import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { type Drink, type Kitchen, type Lesson } from "../../api/client";
import { explain } from "../../api/compute";
import { useKitchen } from "../../api/queries";
import { colour } from "../../ui/theme";

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
      setLesson(await explain({ of: "step", drink, step, volume: text }));
    } catch (error) {
      setLesson(undefined);
      setSaid((error as Error).message);
    }
  };
  const keep = async () => {
    if (!lesson) return;
    const many = lesson.learned.length > 1;
    const wrong = await change((k) =>
      lesson.learned.reduce((own: Kitchen, { figure, to }) => {
        const rounded = Math.round(to * 100) / 100;
        if (figure === "boil_off") return { ...own, boil_off: rounded };
        const known = own.figures?.[figure.keeps];
        return {
          ...own,
          figures: { ...own.figures, [figure.keeps]: { ...known, keeps: rounded } },
        };
      }, k),
    );
    setSaid(
      wrong ??
        (many
          ? "Saved to your figures in the cupboard."
          : "Saved to your figures in the cupboard."),
    );
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
          label="Volume measured after this step"
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
            {lesson.learned.length > 1 ? "Use my figures from now on" : "Use my figure from now on"}
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
