import { useState } from "react";
import { useNavigate } from "react-router";
import { api, take } from "../api/client";
import { SearchSelect } from "../shared/SearchSelect";
import { usePages } from "../shared/usePages";

/** The book's recipes, one of which is tried on the photos picked. */
export function RecipeChoice({ photos }: { photos: string[] }) {
  const navigate = useNavigate();
  const [search, setSearch] = useState("");
  const book = usePages(["recipes", search], (query) => take(api.GET("/api/v1/recipes", { params: { query: { ...query, search } } })));
  return (
    <SearchSelect
      search={search}
      onSearch={setSearch}
      isOld={book.isOld}
      nothing="No recipe found"
      className="picks-recipe"
      aria-label="Try a recipe on them"
      placeholder="Try a recipe on them"
      value={null}
      options={book.items.map((recipe) => ({ value: recipe.id, label: recipe.name }))}
      onSelect={(id: string | null) => id && navigate(`/recipes/${id}/try`, { state: { photos } })}
    />
  );
}
