import Box from "@mui/material/Box";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, api, type BatchView } from "../api/client";
import { makeStale } from "../api/keys";
import { colour } from "../ui/theme";
import { DeleteButton } from "../ui/DeleteButton";
import { FileButton } from "../ui/FileButton";
import { Trouble } from "../ui/Trouble";
import { pictureOf, shrunk } from "../ui/pictures";

/** The picture of a batch: taken on the phone or found in a folder, made small before it is sent. */
export function Picture({ view }: { view: BatchView }) {
  const client = useQueryClient();
  const path = { params: { path: { id: view.id } } };
  const onSuccess = () => makeStale(client, "batch", view.id);
  const put = useMutation({
    mutationFn: async (file: File) => {
      const picture = await shrunk(file);
      return answer(
        api.PUT("/api/batches/{id}/picture", {
          ...path,
          body: picture as never,
          bodySerializer: (body) => body,
          headers: { "content-type": picture.type },
        }),
      );
    },
    onSuccess,
  });
  const away = useMutation({
    mutationFn: () => answer(api.DELETE("/api/batches/{id}/picture", path)),
    onSuccess,
  });
  const source = pictureOf(view);
  return (
    <Box component="section" aria-label="Picture" sx={{ mt: 2 }}>
      {source && (
        <Box
          component="img"
          src={source}
          alt={`${view.name}, finished`}
          sx={{
            display: "block",
            maxWidth: "100%",
            maxHeight: 300,
            borderRadius: "12px",
            bgcolor: colour("track"),
          }}
        />
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: source ? 1 : 0 }}>
        <FileButton
          what="A picture's file"
          accept="image/*"
          onFile={(file) => put.mutate(file)}
          variant={source ? "text" : "outlined"}
          disabled={put.isPending}
          sx={{ minHeight: 44 }}
        >
          {put.isPending ? "Saving…" : source ? "Another picture" : "Add a picture"}
        </FileButton>
        {source && (
          <DeleteButton
            disabled={away.isPending}
            onDelete={() => away.mutate()}
            sx={{ minHeight: 44 }}
          >
            Delete the picture
          </DeleteButton>
        )}
      </Box>
      <Trouble error={put.error ?? away.error ?? undefined} />
    </Box>
  );
}
