import { lazy, Suspense } from "react";
import { Route, Routes } from "react-router";
import { Shelf } from "../shelf/Shelf";
import { Shell } from "./Shell";

// Each place is loaded when it is opened; the shelf is what one opens first.
const DrinkPage = lazy(() => import("../drink/DrinkPage"));
const Plans = lazy(() => import("../plan/Plans"));
const PlanPage = lazy(() => import("../plan/PlanPage"));
const Join = lazy(() => import("./Phones").then(({ Join }) => ({ default: Join })));
const MakePage = lazy(() => import("../make/MakePage"));
const Cupboard = lazy(() => import("../cupboard/Cupboard"));
const SyrupDesk = lazy(() => import("../syrup/SyrupDesk"));

export function App() {
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
        <Route index element={<Shelf />} />
        <Route path="drinks/:id/:view?/:part?" element={<DrinkPage />} />
        <Route path="plan" element={<Plans />} />
        <Route path="plan/:id" element={<PlanPage />} />
        <Route path="cupboard/:part?" element={<Cupboard />} />
        <Route path="syrup" element={<SyrupDesk />} />
        <Route path="*" element={<Shelf />} />
      </Route>
    </Routes>
  );
}
