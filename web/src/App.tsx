import { Route, Routes } from "react-router";
import { BenchPage } from "./bench/BenchPage";
import { FigurePage } from "./figure/FigurePage";
import { RecipesPage } from "./recipes/RecipesPage";
import { TryPhotoPage, TryRecipePage } from "./recipes/TryPage";
import { RunPage, RunsPage } from "./runs/RunsPage";
import { NotHere } from "./shared/NotHere";
import { GonePage } from "./shelf/GonePage";
import { ShelfPage } from "./shelf/ShelfPage";

export function App() {
  return (
    <Routes>
      <Route path="/" element={<ShelfPage />} />
      <Route path="/bench/:pieceId" element={<BenchPage />} />
      <Route path="/figure/:fileName" element={<FigurePage />} />
      <Route path="/recipes" element={<RecipesPage />} />
      <Route path="/recipes/:recipeId/try" element={<TryRecipePage />} />
      <Route path="/recipes/on/:photoId" element={<TryPhotoPage />} />
      <Route path="/runs" element={<RunsPage />} />
      <Route path="/runs/:runId" element={<RunPage />} />
      <Route path="/gone" element={<GonePage />} />
      <Route path="*" element={<NotHere />} />
    </Routes>
  );
}
