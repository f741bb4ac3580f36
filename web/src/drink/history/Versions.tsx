import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, type VersionView } from "../../api/client";
import { useShelfActions } from "../../api/queries";
import { colour, displayFont } from "../../ui/theme";
import { Trouble } from "../../ui/Trouble";
import type { Editor } from "../editing/editor";
import { shortName, useVersions } from "./useVersions";
import { dayOf } from "./words";
import { makeStale } from "../../api/keys";

interface VersionsProps {
  id: string;
  editor: Editor;
  /** The versions that lie on the map. */
  onMap: number[];
  /** Puts a version on the map, or takes it off. */
  onShow: (version: number) => void;
}

/** The states of the drink that are kept, with what was changed; to be named, brought back, or begun from. */
export function Versions({ id, editor, onMap, onShow }: VersionsProps) {
  const client = useQueryClient();
  const { data, error } = useVersions(id, editor);
  const back = useMutation({
    mutationFn: (version: number) =>
      answer(
        api.POST("/api/drinks/{id}/versions/{version}/back", {
          params: { path: { id, version } },
        }),
      ),
    onSuccess: async (kept) => {
      await editor.changedElsewhere(kept.version);
      void makeStale(client, "drink", id);
    },
  });
  if (!data) return <Trouble error={error ?? undefined} />;
  return (
    <Box component="section" aria-label="Versions" sx={{ mt: 4 }}>
      <Box component="h2" sx={{ ...displayFont, fontSize: 21, fontWeight: 700, m: 0 }}>
        Versions
      </Box>
      <Trouble error={back.error ?? undefined} />
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {data.map((version) => (
          <Version
            key={version.version}
            id={id}
            version={version}
            shown={onMap.includes(version.version)}
            onShow={() => onShow(version.version)}
            onBack={() => back.mutate(version.version)}
          />
        ))}
      </Box>
      {data.length === 1 && (
        <Box sx={{ color: colour("muted"), fontSize: 14.5 }}>
          Each version that lasted five minutes or was made is saved here when you change it.
        </Box>
      )}
    </Box>
  );
}

interface VersionProps {
  id: string;
  version: VersionView;
  shown: boolean;
  onShow: () => void;
  onBack: () => void;
}

function Version({ id, version, shown, onShow, onBack }: VersionProps) {
  const client = useQueryClient();
  const { create } = useShelfActions();
  const go = useNavigate();
  const [naming, setNaming] = useState<string | undefined>();
  const name = useMutation({
    mutationFn: (name: string) =>
      answer(
        api.PUT("/api/drinks/{id}/versions/{version}/name", {
          params: { path: { id, version: version.version } },
          body: { name },
        }),
      ),
    onSuccess: () => {
      setNaming(undefined);
      void makeStale(client, "drink", id);
    },
  });
  const variant = useMutation({
    mutationFn: async () => {
      const drink = await answer(
        api.GET("/api/drinks/{id}/versions/{version}", {
          params: { path: { id, version: version.version } },
        }),
      );
      const name = `${drink.name}, ${shortName(version)}`;
      return create.mutateAsync({ ...drink, name: name.slice(0, 120) });
    },
    onSuccess: (made) => void go(`/drinks/${made.id}`),
  });
  const { point } = version;
  return (
    <Box
      component="li"
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        columnGap: 1.5,
        py: 0.5,
        borderTop: `1px solid ${colour("hairline")}`,
      }}
    >
      <Box sx={{ flex: "1 1 320px", minWidth: 0, overflowWrap: "anywhere" }}>
        <strong>{version.now ? "now" : dayOf(version.since)}</strong>
        {version.name && <strong>, “{version.name}”</strong>}{" "}
        {version.readable
          ? version.changes.join("; ") || (version.now ? "" : "begun so")
          : "can no longer be read"}
        <Box component="span" sx={{ color: colour("muted"), fontSize: 14 }}>
          {point &&
            point.acidity > 0.02 &&
            ` · ${(point.sweetness / point.acidity).toFixed(0)} to 1`}
          {version.made > 0 && ` · made ${version.made === 1 ? "once" : `${version.made} times`}`}
        </Box>
        <Trouble error={name.error ?? variant.error ?? undefined} />
      </Box>
      {naming === undefined ? (
        <Box sx={{ display: "flex", "& button": { px: 1, whiteSpace: "nowrap" } }}>
          <Button onClick={() => setNaming(version.name)}>Name</Button>
          {!version.now && version.readable && (
            <>
              {point && (
                <Button
                  aria-pressed={shown}
                  onClick={onShow}
                  sx={{ bgcolor: shown ? colour("wash") : "transparent" }}
                >
                  On the map
                </Button>
              )}
              <Button disabled={variant.isPending} onClick={() => variant.mutate()}>
                Variant
              </Button>
              <Button onClick={onBack}>Bring back</Button>
            </>
          )}
        </Box>
      ) : (
        <Box
          component="form"
          sx={{ display: "flex", gap: 1, py: 0.5 }}
          onSubmit={(event) => {
            event.preventDefault();
            name.mutate(naming);
          }}
        >
          <TextField
            size="small"
            label="Name of the version"
            value={naming}
            autoFocus
            onChange={(event) => setNaming(event.target.value)}
          />
          <Button type="submit" variant="outlined">
            Keep this version
          </Button>
        </Box>
      )}
    </Box>
  );
}
