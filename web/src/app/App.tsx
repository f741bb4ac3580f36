import { Route, Routes } from "react-router";
import { Cupboard } from "../cupboard/Cupboard";
import { DrinkPage } from "../drink/DrinkPage";
import { Shelf } from "../shelf/Shelf";
import { SyrupDesk } from "../syrup/SyrupDesk";
import { Shell } from "./Shell";

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
