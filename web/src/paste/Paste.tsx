import { useMutation } from "@tanstack/react-query";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, asking, type PasteChoice, type PastedView } from "../api/client";
import { useQuestion } from "../api/ask";
import { useShelfActions } from "../api/queries";
import { colour, displayFont } from "../ui/theme";
import { MapPlate } from "../drink/balance/MapPlate";
import { FileButton } from "../ui/FileButton";
import { effort, volume } from "../ui/format";
import { Note } from "../ui/Note";
import { Trouble } from "../ui/Trouble";
import { shrunk } from "../ui/pictures";
import { useSettled } from "../ui/useSettled";
import { Things } from "./Things";
import { PageTitle } from "../ui/PageTitle";
import { keys } from "../api/keys";

/** A text that is remembered until it is on the shelf, so that a reload loses nothing. */
const PLACE = "keen-pitcher/pasted";

function recall(): { text: string; choices: PasteChoice[] } {
  try {
    const known = JSON.parse(sessionStorage.getItem(PLACE) ?? "null") as ReturnType<typeof recall>;
    return typeof known?.text === "string" ? known : { text: "", choices: [] };
  } catch {
    return { text: "", choices: [] };
  }
}

const part = { ...displayFont, fontSize: 20, fontWeight: 700, m: 0 } as const;

/** A recipe in any wording: the text, what was read from it beside it, and the drink on the map at once. */
export default function Paste() {
  const [{ text, choices }, setAll] = useState(recall);
  const [editing, setEditing] = useState(() => recall().text === "");
  const keep = (next: { text: string; choices: PasteChoice[] }) => {
    setSure(false);
    setAll(next);
    sessionStorage.setItem(PLACE, JSON.stringify(next));
  };
  const settled = useSettled(text, 250);
  const asked = { text: settled, choices };
  const { data, error, again } = useQuestion(
    keys.paste(settled, choices),
    (signal) =>
      answer(api.POST("/api/compute/paste", { body: asked, headers: asking("paste"), signal })),
    settled.trim() !== "",
  );
  const read = settled.trim() === "" ? undefined : data;
  const { create } = useShelfActions();
  const go = useNavigate();
  /** Whether it was asked once about what is still marked. */
  const [sure, setSure] = useState(false);
  const [wrong, setWrong] = useState<string | undefined>();
  const choose = (choice: PasteChoice) =>
    keep({
      text,
      choices: [
        ...choices.filter((c) => c.key !== choice.key),
        { ...choices.find((c) => c.key === choice.key), ...choice },
      ],
    });
  /** What stands in the field now, though what is shown may still be of a letter before. */
  const put = useMutation({
    mutationFn: async () => {
      setWrong(undefined);
      const { drink } = await answer(api.POST("/api/compute/paste", { body: { text, choices } }));
      return create.mutateAsync(drink);
    },
    onSuccess: (made) => {
      sessionStorage.removeItem(PLACE);
      void go(`/drinks/${made.id}`);
    },
    onError: (fault) => setWrong(fault.message),
  });
  const take = async (chosen: File) => {
    if (chosen.size > 400_000) {
      setWrong(`“${chosen.name}” is too large for a recipe. Choose a file up to 400 kB.`);
      return;
    }
    setWrong(undefined);
    keep({ text: await chosen.text(), choices: [] });
    setEditing(false);
  };
  /** A photo of a printed card gives the drink back as it was. */
  const card = useMutation({
    mutationFn: async (photo: File) => {
      setWrong(undefined);
      const picture = await shrunk(photo, 3200);
      const { drink } = await answer(
        api.POST("/api/compute/card", {
          body: picture as never,
          bodySerializer: (body) => body,
          headers: { "content-type": picture.type },
        }),
      );
      return create.mutateAsync(drink);
    },
    onSuccess: (made) => void go(`/drinks/${made.id}`),
    onError: (fault) => setWrong(fault.message),
  });
  const asks = read?.things.filter((t) => t.sure === "asked" && !t.left_out) ?? [];
  const open = asks.length;
  const doubtful = asks.map((t) => `“${t.words.trim()}”`).slice(0, 4);
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 12, flex: 1, minWidth: 0 }}>
      <PageTitle mt={0.5}>Paste a recipe</PageTitle>
      <Trouble error={error} again={again} />
      {wrong && <Note kind="stop">{wrong}</Note>}
      {read?.cut && (
        <Note kind="notice">The text goes on; its first 20,000 letters were read.</Note>
      )}
      <Box
        sx={{
          display: "grid",
          // Until something was read, the text has the room.
          gridTemplateColumns: read
            ? {
                xs: "minmax(0, 1fr)",
                md: "minmax(260px, 31%) minmax(0, 1fr)",
                lg: "minmax(260px, 29%) minmax(0, 1fr) 350px",
              }
            : "minmax(0, 860px)",
          gap: 4,
          mt: 2,
          alignItems: "start",
        }}
      >
        <Box>
          {editing || !read ? (
            <TextField
              multiline
              fullWidth
              minRows={14}
              maxRows={26}
              label="The recipe"
              value={text}
              autoFocus
              onChange={(event) => keep({ text: event.target.value, choices: [] })}
              onPaste={() => setTimeout(() => setEditing(false), 0)}
              slotProps={{ htmlInput: { spellCheck: false } }}
            />
          ) : (
            <Marked read={read} />
          )}
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
            {read && (
              <Button onClick={() => setEditing(!editing)}>
                {editing ? "Read the recipe" : "Edit the recipe"}
              </Button>
            )}
            <FileButton
              what="A recipe's file"
              accept=".txt,.md,.html,.htm,.json,.jsonld,text/plain,text/html"
              onFile={(file) => void take(file)}
            >
              From a file
            </FileButton>
            <FileButton
              what="A photo of a card"
              accept="image/*"
              disabled={card.isPending}
              onFile={(photo) => card.mutate(photo)}
            >
              {card.isPending ? "Reading the card…" : "From a photo of a card"}
            </FileButton>
          </Box>
          {!read && (
            <Box sx={{ color: colour("muted"), fontSize: 15, mt: 1 }}>
              A list and a method, or a few sentences; cups, grams, handfuls. A page that was saved
              from the web will do as well.
            </Box>
          )}
        </Box>
        {read && (
          <Box sx={{ minWidth: 0 }}>
            <Box component="section" aria-label="Ingredients">
              <Box component="h2" sx={part}>
                Ingredients
              </Box>
              {read.doubt ? (
                <Box role="status" sx={{ display: "grid", gap: 1, justifyItems: "start" }}>
                  {read.doubt}
                  <Button variant="outlined" onClick={() => choose({ key: "anyway" })}>
                    Read it as a recipe anyway
                  </Button>
                </Box>
              ) : (
                read.things.length === 0 && (
                  <Box sx={{ color: colour("muted") }}>No ingredients found.</Box>
                )
              )}
              <Things things={read.things} lines={read.report.lines} onChoose={choose} />
            </Box>
            <How read={read} />
          </Box>
        )}
        {read && (
          <Box sx={{ gridColumn: { md: "2", lg: "auto" } }}>
            <Box sx={{ maxWidth: 420 }}>
              <MapPlate
                map={read.report.map}
                colour={read.report.profile?.colour}
                name={read.drink.name}
              />
            </Box>
            <Sum read={read} />
            {read.differs.map((one) => (
              <Box
                key={one.key}
                role="group"
                aria-label={one.message}
                sx={{
                  mt: 2,
                  px: 2,
                  py: 1.5,
                  borderRadius: "12px",
                  bgcolor: colour("notice"),
                  color: colour("onNotice"),
                  maxWidth: 420,
                }}
              >
                <strong>The recipe says two things.</strong> {one.message}
                <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
                  {one.choices.map((text, i) => (
                    <Button
                      key={text}
                      variant={i === one.chosen ? "contained" : "outlined"}
                      aria-pressed={i === one.chosen}
                      onClick={() => choose({ key: one.key, chosen: i })}
                    >
                      {text}
                    </Button>
                  ))}
                </Box>
              </Box>
            ))}
          </Box>
        )}
      </Box>
      {read && (
        <Box
          sx={{
            position: "fixed",
            left: { xs: 0, md: "auto" },
            right: { xs: 0, md: 28 },
            bottom: { xs: 0, md: 20 },
            display: "flex",
            flexWrap: "wrap",
            justifyContent: "flex-end",
            alignItems: "center",
            gap: 1.5,
            px: { xs: 2, md: 1 },
            py: 1,
            borderRadius: { xs: 0, md: "14px" },
            borderTop: { xs: `1px solid ${colour("hairline")}`, md: 0 },
            bgcolor: colour("ground"),
          }}
        >
          {open > 0 && !sure && (
            <Box sx={{ color: colour("stop"), fontWeight: 600 }}>{needALook(open)}</Box>
          )}
          {open > 0 && sure && (
            <Box role="alert" sx={{ color: colour("stop"), fontWeight: 600, maxWidth: 420 }}>
              {needALook(open)}: {doubtful.join(", ")}. Look at the marked lines, or save it as it
              is.
            </Box>
          )}
          <Button
            variant="outlined"
            onClick={() => {
              keep({ text: "", choices: [] });
              setEditing(true);
            }}
          >
            Start over
          </Button>
          <Button
            variant="contained"
            disabled={put.isPending || read.drink.steps.length === 0}
            onClick={() => (open > 0 && !sure ? setSure(true) : put.mutate())}
          >
            {open > 0 && sure ? "Save it as it is" : "Save drink"}
          </Button>
        </Box>
      )}
    </Box>
  );
}

const needALook = (open: number) =>
  open === 1 ? "1 thing needs a look" : `${open} things need a look`;

const marks = { understood: "wash", guessed: "notice", asked: "stopWash" } as const;

/** The text with what was made of it, in place. */
function Marked({ read }: { read: PastedView }) {
  return (
    <Box
      aria-label="The recipe as it was read"
      role="region"
      tabIndex={0}
      sx={{
        px: 2.5,
        py: 2,
        borderRadius: "14px",
        bgcolor: colour("enamel"),
        fontSize: 15.5,
        lineHeight: 1.7,
        maxHeight: { md: "calc(100dvh - 260px)" },
        overflowY: "auto",
        overflowWrap: "anywhere",
      }}
    >
      {read.lines.map((line, i) => (
        <Box key={i} sx={{ minHeight: "1.7em" }}>
          {line.runs.map((run, n) =>
            run.sure === "aside" ? (
              <Box component="span" key={n} sx={{ color: colour("muted") }}>
                {run.text}
              </Box>
            ) : (
              <Box
                component="mark"
                key={n}
                title={
                  run.sure === "guessed" ? "guessed" : run.sure === "asked" ? "asked" : undefined
                }
                sx={{
                  bgcolor: colour(marks[run.sure]),
                  color: colour(run.sure === "guessed" ? "onNotice" : "ink"),
                  borderBottom:
                    run.sure === "understood"
                      ? "none"
                      : `2px ${run.sure === "guessed" ? "dotted" : "solid"} currentColor`,
                }}
              >
                {run.text}
              </Box>
            ),
          )}
        </Box>
      ))}
    </Box>
  );
}

/** The steps that were read, with what was guessed of them. */
function How({ read }: { read: PastedView }) {
  const guessed = new Map(read.guesses.map((g) => [g.step, g.why]));
  if (read.report.frames.length === 0) return null;
  return (
    <Box component="section" aria-label="How" sx={{ mt: 3 }}>
      <Box component="h2" sx={part}>
        How
      </Box>
      <Box component="ol" sx={{ m: 0, mt: 0.5, pl: 3, "& li": { py: 0.4 } }}>
        {read.report.frames.map((frame) => (
          <li key={frame.step}>
            {frame.sentence}
            {guessed.has(frame.step) && (
              <Box
                component="span"
                sx={{ color: colour("onNotice"), bgcolor: colour("notice"), ml: 1, px: 0.75 }}
              >
                {guessed.get(frame.step)}
              </Box>
            )}
          </li>
        ))}
      </Box>
      {read.drink.note && (
        <Box sx={{ mt: 1.5, color: colour("muted"), fontSize: 14.5, whiteSpace: "pre-line" }}>
          <strong>Not used, kept in the note:</strong>
          {"\n"}
          {read.drink.note}
        </Box>
      )}
    </Box>
  );
}

/** What it comes to, in two lines. */
function Sum({ read }: { read: PastedView }) {
  const { profile, map } = read.report;
  if (!profile) return null;
  return (
    <Box sx={{ mt: 1.5 }}>
      <Box sx={{ fontWeight: 600 }}>
        {profile.ratio != null
          ? `${profile.ratio.toFixed(0)} to 1`
          : `${profile.brix.toFixed(1)} °Bx`}
        {map.point?.band && `, ${map.point.band}`}
      </Box>
      <Box sx={{ color: colour("muted"), fontSize: 14.5 }}>
        {volume(profile.volume_ml)}
        {profile.served && `, ${profile.glasses.toFixed(0)} glasses`} ·{" "}
        {effort(read.report).join(" · ")}
      </Box>
    </Box>
  );
}
