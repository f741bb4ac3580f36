import { Route, Routes } from "react-router";
import { DrinkPage } from "../drink/DrinkPage";
import { Shelf } from "../shelf/Shelf";
import { Shell } from "./Shell";

export function App() {
  return (
    <Routes>
      <Route element={<Shell />}>
        <Route index element={<Shelf />} />
        <Route path="drinks/:id/:view?" element={<DrinkPage />} />
        <Route path="*" element={<Shelf />} />
      </Route>
    </Routes>
  );
}
