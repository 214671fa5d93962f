import { Route, Routes } from "react-router";
import { BenchPage } from "./bench/BenchPage";
import { FigurePage } from "./figure/FigurePage";
import { NotHere } from "./shared/NotHere";
import { ShelfPage } from "./shelf/ShelfPage";

export function App() {
  return (
    <Routes>
      <Route path="/" element={<ShelfPage />} />
      <Route path="/bench/:pieceId" element={<BenchPage />} />
      <Route path="/figure/:fileName" element={<FigurePage />} />
      <Route path="*" element={<NotHere />} />
    </Routes>
  );
}
