import Box from "@mui/material/Box";
import { Link } from "react-router";
import type { HistoryView } from "../../api/client";
import { colour } from "../../ui/theme";
import { pictureOf } from "../../ui/pictures";
import { volume } from "../../ui/format";
import { dayOf } from "./words";

type Column = HistoryView["batches"][number];

/** Batches side by side: a row a figure, a column a batch, and as it is written now. */
export function BatchTable({
  batches,
  written,
}: {
  batches: Column[];
  written: HistoryView["written"];
}) {
  // In the order of the making; what only batches have stands behind what it follows there.
  const order = written.cells.map((cell) => cell.key);
  const labels = new Map(written.cells.map((cell) => [cell.key, cell.label]));
  for (const batch of batches) {
    batch.cells.forEach((cell, i) => {
      if (labels.has(cell.key)) return;
      labels.set(cell.key, cell.label);
      const before = order.indexOf(batch.cells[i - 1]?.key ?? "");
      order.splice(before < 0 ? order.length : before + 1, 0, cell.key);
    });
  }
  const last = ["volume", "cost", "ended"];
  const keys = [
    ...order.filter((key) => !last.includes(key)),
    ...last.filter((k) => labels.has(k)),
  ];
  const said = batches.some((b) => b.said.length > 0);
  const cellStyle = {
    textAlign: "left",
    py: 0.9,
    pr: 2,
    verticalAlign: "top",
    borderTop: `1px solid ${colour("hairline")}`,
  } as const;
  const edge = { position: "sticky", left: 0, bgcolor: colour("ground") } as const;
  return (
    // Focusable, so that the keyboard can scroll it.
    <Box
      tabIndex={0}
      role="region"
      aria-label="Batches side by side"
      sx={{ overflowX: "auto", mt: 1 }}
    >
      <Box component="table" sx={{ borderCollapse: "collapse", minWidth: "100%", fontSize: 15 }}>
        <thead>
          <tr>
            <Box
              component="td"
              sx={{ ...edge, verticalAlign: "bottom", pr: 2, pb: 0.5, color: colour("muted") }}
            >
              made
            </Box>
            {batches.map((b) => (
              <Box
                component="th"
                scope="col"
                key={b.id}
                sx={{
                  textAlign: "left",
                  verticalAlign: "bottom",
                  pr: 2,
                  pb: 0.5,
                  fontWeight: 500,
                  whiteSpace: "nowrap",
                }}
              >
                {pictureOf(b) && (
                  <Box
                    component="img"
                    src={pictureOf(b)}
                    alt={`as made on ${dayOf(b.begun_at)}`}
                    loading="lazy"
                    sx={{ display: "block", height: 72, borderRadius: "8px", mb: 0.5 }}
                  />
                )}
                <Link className="kp-finger" to={`/make/${b.id}`}>
                  {dayOf(b.begun_at)}
                </Link>
                <Box component="span" sx={{ color: colour("muted") }}>
                  , {volume(b.ml)}
                  {b.rating != null && `, ${b.rating} of 5`}
                </Box>
              </Box>
            ))}
            <Box
              component="th"
              scope="col"
              sx={{
                textAlign: "left",
                verticalAlign: "bottom",
                pb: 0.5,
                fontWeight: 500,
                color: colour("muted"),
                whiteSpace: "nowrap",
              }}
            >
              as written
            </Box>
          </tr>
        </thead>
        <tbody>
          {keys.map((key) => (
            <tr key={key}>
              <Box
                component="th"
                scope="row"
                sx={{ ...cellStyle, ...edge, fontWeight: 400, color: colour("muted") }}
              >
                {labels.get(key)}
              </Box>
              {batches.map((b) => {
                const cell = b.cells.find((c) => c.key === key);
                return (
                  <Box
                    component="td"
                    key={b.id}
                    sx={{ ...cellStyle, fontWeight: cell?.stands_out ? 700 : 400 }}
                  >
                    {cell?.made}
                    {cell?.stands_out && cell.written && (
                      <Box
                        component="span"
                        sx={{ color: colour("muted"), fontWeight: 400, fontSize: 13.5 }}
                      >
                        {" "}
                        not {cell.written}
                      </Box>
                    )}
                  </Box>
                );
              })}
              <Box component="td" sx={{ ...cellStyle, color: colour("muted"), minWidth: 84 }}>
                {written.cells.find((c) => c.key === key)?.written}
              </Box>
            </tr>
          ))}
          {said && (
            <tr>
              <Box
                component="th"
                scope="row"
                sx={{ ...cellStyle, ...edge, fontWeight: 400, color: colour("muted") }}
              >
                guests said
              </Box>
              {batches.map((b) => (
                <Box component="td" key={b.id} sx={{ ...cellStyle, maxWidth: 240 }}>
                  {b.said.join("; ")}
                </Box>
              ))}
              <Box component="td" sx={cellStyle} />
            </tr>
          )}
        </tbody>
      </Box>
    </Box>
  );
}
