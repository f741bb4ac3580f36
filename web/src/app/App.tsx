import { lazy } from "react";
import { Route, Routes } from "react-router";
import { Shelf } from "../shelf/Shelf";
import { Shell } from "./Shell";

// Each place is loaded when it is opened; the shelf is what one opens first.
const DrinkPage = lazy(() => import("../drink/DrinkPage"));
const Cupboard = lazy(() => import("../cupboard/Cupboard"));
const SyrupDesk = lazy(() => import("../syrup/SyrupDesk"));

export function App() {
  return (
    <Routes>
      <Route element={<Shell />}>
        <Route index element={<Shelf />} />
        <Route path="drinks/:id/:view?/:part?" element={<DrinkPage />} />
        <Route path="cupboard/:part?" element={<Cupboard />} />
        <Route path="syrup" element={<SyrupDesk />} />
        <Route path="*" element={<Shelf />} />
      </Route>
    </Routes>
  );
}
