import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { lazy, Suspense } from "react";
import { Link, Route, Routes } from "react-router";
import { Today } from "../today/Today";
import { PageTitle } from "../ui/PageTitle";
import { Shell } from "./Shell";
import { useUnsent } from "./useUnsent";

// Each place is loaded when it is opened; today is what one opens first.
const Drinks = lazy(() => import("../shelf/Drinks"));
const Paste = lazy(() => import("../paste/Paste"));
const Kept = lazy(() => import("../kept/Kept"));
const Labels = lazy(() => import("../kept/Labels"));
const DrinkPage = lazy(() => import("../drink/DrinkPage"));
const Plans = lazy(() => import("../plan/Plans"));
const PlanPage = lazy(() => import("../plan/PlanPage"));
const Join = lazy(() => import("./Phones").then(({ Join }) => ({ default: Join })));
const MakePage = lazy(() => import("../make/MakePage"));
const Cupboard = lazy(() => import("../cupboard/Cupboard"));
const Tasting = lazy(() => import("../tasting/Tasting"));
const TastingPage = lazy(() => import("../tasting/TastingPage"));
const FindStart = lazy(() => import("../tasting/setUp/FindStart"));
const SetUpTasting = lazy(() => import("../tasting/setUp/SetUp"));
const PrintTasting = lazy(() => import("../tasting/PrintPage"));
const Larder = lazy(() => import("../larder/Larder"));
const SyrupDesk = lazy(() => import("../syrup/SyrupDesk"));

/** An address that leads nowhere. */
function NoPage() {
  return (
    <Box component="main" sx={{ p: { xs: 2, md: 3.5 } }}>
      <PageTitle mb={1}>There is no page here</PageTitle>
      <p>The address may be mistyped, or the page was moved.</p>
      <Button component={Link} to="/" variant="outlined">
        Go to Today
      </Button>
    </Box>
  );
}

export function App() {
  useUnsent();
  return (
    <Routes>
      <Route
        path="make/:id"
        element={
          <Suspense>
            <MakePage />
          </Suspense>
        }
      />
      <Route
        path="join"
        element={
          <Suspense>
            <Join />
          </Suspense>
        }
      />
      <Route element={<Shell />}>
        <Route index element={<Today />} />
        <Route path="drinks" element={<Drinks />} />
        <Route path="paste" element={<Paste />} />
        <Route path="make-from" element={<Larder />} />
        <Route path="kept/labels" element={<Labels />} />
        <Route path="kept/:id?" element={<Kept />} />
        <Route path="drinks/:id/:view?/:part?" element={<DrinkPage />} />
        <Route path="plan" element={<Plans />} />
        <Route path="plan/:id" element={<PlanPage />} />
        <Route path="tasting" element={<Tasting />} />
        <Route path="tasting/find" element={<FindStart />} />
        <Route path="tasting/new/:what" element={<SetUpTasting />} />
        <Route path="tasting/:id" element={<TastingPage />} />
        <Route path="tasting/:id/print" element={<PrintTasting />} />
        <Route path="cupboard/:part?" element={<Cupboard />} />
        <Route path="syrup" element={<SyrupDesk />} />
        <Route path="*" element={<NoPage />} />
      </Route>
    </Routes>
  );
}
