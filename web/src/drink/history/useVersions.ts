import { useQuery } from "@tanstack/react-query";
import { useStore } from "zustand";
import { answer, api, type VersionView } from "../../api/client";
import type { Editor } from "../editing/editor";
import { dayOf } from "./words";
import { keys } from "../../api/keys";

/** The states of a drink that are kept, the present one first. */
export function useVersions(id: string, editor: Editor) {
  const saved = useStore(editor.store, (s) => s.saving.phase === "saved");
  return useQuery({
    queryKey: keys.versions(id),
    queryFn: async () => {
      const path = { params: { path: { id } } };
      return (await answer(api.GET("/api/drinks/{id}/versions", path))).versions;
    },
    // What is on its way to the shelf isn't there yet.
    enabled: saved,
    staleTime: 0,
  });
}

/** What a version is called where there is little room. */
export const shortName = (version: VersionView) => version.name || dayOf(version.since);

/** The versions whose place is shown: those that were chosen; until then those that somebody gave a name. */
export function placesOf(versions: VersionView[], chosen: number[] | undefined) {
  return versions.flatMap((version) => {
    const shown = chosen ? chosen.includes(version.version) : version.name !== "" && !version.now;
    return shown && version.point
      ? [{ id: String(version.version), name: shortName(version), spot: version.point }]
      : [];
  });
}
