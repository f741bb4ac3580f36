import Box from "@mui/material/Box";
import { memo } from "react";
import { Link, useParams } from "react-router";
import type { Drink, DrinkReport } from "../../api/client";
import { colour } from "../../ui/theme";
import type { Editor } from "../editing/editor";
import { Glass } from "./Glass";
import { Sheet } from "./Sheet";
import { Shopping } from "./Shopping";
import { Vessels } from "./Vessels";

interface SizeProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
}

const parts = [
  ["amounts", "Amounts"],
  ["vessels", "Vessels"],
  ["shopping", "Shopping"],
  ["glass", "At the glass"],
] as const;

/** From one glass to a party: amounts, vessels, what to buy, and the glass. */
const Size = memo(function Size({ editor, drink, report }: SizeProps) {
  const { id = "", part = "amounts" } = useParams();
  return (
    <Box sx={{ px: { xs: 2, md: 3.5 }, pb: 3, flex: 1, minWidth: 0 }}>
      <Box
        component="nav"
        aria-label="Parts of Size"
        className="no-print"
        sx={{
          display: "flex",
          gap: { xs: 2, sm: 3 },
          mb: 2,
          borderBottom: `1px solid ${colour("hairline")}`,
          overflowX: "auto",
        }}
      >
        {parts.map(([key, name]) => (
          <Box
            key={key}
            component={Link}
            to={`/drinks/${id}/size/${key}`}
            replace
            aria-current={part === key ? "page" : undefined}
            sx={{
              py: 1.25,
              minHeight: 44,
              whiteSpace: "nowrap",
              textDecoration: "none",
              fontWeight: part === key ? 700 : 500,
              color: colour(part === key ? "cobalt" : "muted"),
              borderBottom: `3px solid ${part === key ? colour("cobalt") : "transparent"}`,
            }}
          >
            {name}
          </Box>
        ))}
      </Box>
      {part === "vessels" ? (
        <Vessels editor={editor} drink={drink} report={report} />
      ) : part === "shopping" ? (
        <Shopping id={id} drink={drink} />
      ) : part === "glass" ? (
        <Glass drink={drink} />
      ) : (
        <Sheet editor={editor} drink={drink} report={report} />
      )}
    </Box>
  );
});

export default Size;
