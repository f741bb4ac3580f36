import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { answer, api } from "../api/client";
import { useQuestion } from "../api/ask";
import { colour } from "../ui/theme";
import { volume } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { useKept } from "./queries";
import { PageTitle } from "../ui/PageTitle";
import { keys } from "../api/keys";

/** The paper is as large as the sheet, without an edge of the printer's own. */
function usePaper([width, height]: number[]) {
  useEffect(() => {
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(
      `@page { size: ${width}mm ${height}mm; margin: 0 }
       @media print { main { padding: 0 !important } }`,
    );
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
    return () => {
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== sheet);
    };
  }, [width, height]);
}

/** Labels for chosen bottles, on what one has to print on. */
export default function Labels() {
  const { data: kept } = useKept();
  const { data: formats = [] } = useQuery({
    queryKey: keys.labelFormats(),
    queryFn: async () => (await answer(api.GET("/api/labels"))).formats,
    staleTime: Infinity,
  });
  const [format, setFormat] = useState("a4_24");
  const [start, setStart] = useState("1");
  const [code, setCode] = useState<"bottle" | "drink">("bottle");
  const [without, setWithout] = useState<string[]>([]);
  const all = kept?.bottles ?? [];
  const chosen = all.map((b) => b.id).filter((id) => !without.includes(id));
  const chosenFormat = formats.find((f) => f.id === format);
  const each = chosenFormat ? chosenFormat.columns * chosenFormat.rows : 1;
  const start_at = Math.min(Math.max((Math.round(Number(start)) || 1) - 1, 0), each - 1);
  const asked = { bottles: chosen, format, start_at, code };
  const { data, error, waits } = useQuestion(
    keys.labels(asked),
    (signal) => answer(api.POST("/api/compute/labels", { body: asked, signal })),
    chosen.length > 0,
  );
  const pages = chosen.length > 0 ? (data?.pages ?? []) : [];
  const page = chosenFormat?.page ?? [210, 297];
  usePaper(page);
  return (
    <Box component="main" sx={{ px: { xs: 2, md: 3.5 }, pb: 6, flex: 1, minWidth: 0 }}>
      <Box
        className="no-print"
        sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1.5, mb: 2 }}
      >
        <PageTitle>Labels</PageTitle>
        <TextField
          select
          size="small"
          label="Paper"
          value={format}
          onChange={(event) => setFormat(event.target.value)}
          sx={{ minWidth: 250 }}
        >
          {formats.map((one) => (
            <MenuItem key={one.id} value={one.id}>
              {one.name}
            </MenuItem>
          ))}
        </TextField>
        {each > 1 && (
          <TextField
            size="small"
            label="Start at sticker"
            value={start}
            onChange={(event) => setStart(event.target.value)}
            slotProps={{ htmlInput: { inputMode: "numeric" } }}
            sx={{ width: 130 }}
          />
        )}
        <TextField
          select
          size="small"
          label="Picture code"
          value={code}
          onChange={(event) => setCode(event.target.value as typeof code)}
          sx={{ minWidth: 210 }}
        >
          <MenuItem value="bottle">opens the bottle on a phone</MenuItem>
          <MenuItem value="drink">holds the whole recipe</MenuItem>
        </TextField>
        <Box sx={{ flex: 1 }} />
        <Button variant="contained" disabled={pages.length === 0} onClick={() => window.print()}>
          Print
        </Button>
        {pages.map((svg, i) => (
          <Button
            key={i}
            component="a"
            href={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`}
            download={pages.length > 1 ? `labels-${i + 1}.svg` : "labels.svg"}
          >
            {pages.length > 1 ? `Page ${i + 1} as SVG` : "As SVG"}
          </Button>
        ))}
        <Button component={Link} to="/kept">
          Back
        </Button>
      </Box>
      <Trouble error={error} />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "1fr", md: "280px 1fr" },
          gap: 3,
          alignItems: "start",
          "@media print": { display: "block" },
        }}
      >
        <Box
          component="ul"
          className="no-print"
          aria-label="For which bottles"
          sx={{ listStyle: "none", m: 0, p: 0 }}
        >
          {all.map((bottle) => (
            <Box
              component="li"
              key={bottle.id}
              sx={{ borderTop: `1px solid ${colour("hairline")}` }}
            >
              <Box
                component="label"
                sx={{ display: "flex", alignItems: "center", minHeight: 48, cursor: "pointer" }}
              >
                <Checkbox
                  checked={!without.includes(bottle.id)}
                  onChange={(_, on) =>
                    setWithout(
                      on ? without.filter((id) => id !== bottle.id) : [...without, bottle.id],
                    )
                  }
                />
                <Box sx={{ minWidth: 0, overflowWrap: "anywhere" }}>
                  <Box sx={{ fontWeight: 600, lineHeight: 1.2 }}>{bottle.name}</Box>
                  <Box sx={{ fontSize: 13.5, color: colour("muted") }}>
                    {volume(bottle.state.ml)}, {bottle.due}
                  </Box>
                </Box>
              </Box>
            </Box>
          ))}
        </Box>
        <Box>
          {pages.map((svg, i) => (
            <Box
              key={i}
              data-testid="label-page"
              data-format={waits ? undefined : format}
              sx={{
                bgcolor: "#fff",
                border: `1px solid ${colour("hairline")}`,
                mb: 2,
                maxWidth: `${page[0]}mm`,
                "& svg": { display: "block", width: "100%", height: "auto" },
                "@media print": { border: 0, m: 0, breakAfter: "page" },
              }}
              // Drawn by the core, which writes every name as text.
              dangerouslySetInnerHTML={{ __html: svg }}
            />
          ))}
        </Box>
      </Box>
    </Box>
  );
}
