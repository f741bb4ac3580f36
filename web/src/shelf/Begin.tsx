import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { lazy, Suspense, useState } from "react";
import { Link } from "react-router";

const NewDrink = lazy(() => import("./NewDrink"));

/** The ways to put a drink on the shelf. */
export function Begin() {
  const [adding, setAdding] = useState(false);
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
      <Button variant="outlined" component={Link} to="/make-from">
        What can I make?
      </Button>
      <Button variant="outlined" component={Link} to="/paste">
        Paste a recipe
      </Button>
      <Button variant="contained" onClick={() => setAdding(true)}>
        New drink
      </Button>
      <Suspense>{adding && <NewDrink onClose={() => setAdding(false)} />}</Suspense>
    </Box>
  );
}
