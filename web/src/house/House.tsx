import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Backup } from "../api/client";
import { TitledDialog } from "../ui/TitledDialog";
import { colour, displayFont } from "../ui/theme";
import { FileButton } from "../ui/FileButton";
import { when } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { keys } from "../api/keys";

const size = (bytes: number) =>
  bytes > 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.ceil(bytes / 1e3)} kB`;

const kinds: Record<Backup["kind"], string> = {
  daily: "daily backup",
  manual: "made by you",
  set_aside: "before a restore",
};

const tables = [
  ["ingredients", "Ingredients"],
  ["batches", "Batches"],
  ["readings", "Readings"],
] as const;

/** Sends a file as it is, and answers what the server says of it. */
async function send(path: string, file: File): Promise<Record<string, unknown>> {
  const response = await fetch(path, { method: "POST", body: file });
  const said = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  if (response.ok) return said;
  throw new Error(
    typeof said["detail"] === "string" ? said["detail"] : "Keen Pitcher isn't answering.",
  );
}

/** The whole house as one file, out and in; the copies of each day; tables. */
export default function House({ onClose }: { onClose: () => void }) {
  const client = useQueryClient();
  const { data: kept, error } = useQuery({
    queryKey: keys.backups(),
    queryFn: async () => (await answer(api.GET("/api/house/backups"))).backups,
    staleTime: 0,
  });
  const [done, setDone] = useState<string | undefined>();
  const [sure, setSure] = useState<Backup | File | undefined>();
  const now = useMutation({
    mutationFn: async () => (await answer(api.POST("/api/house/backups"))).backups,
    onSuccess: (all) => {
      client.setQueryData(keys.backups(), all);
      setDone(`Backed up and checked: ${all.find((one) => one.kind === "manual")?.name}.`);
    },
  });
  const back = useMutation({
    mutationFn: (which: Backup | File) =>
      which instanceof File
        ? send("/api/house", which)
        : answer(api.POST("/api/house/backups/{name}", { params: { path: { name: which.name } } })),
    onSuccess: (said) => {
      setSure(undefined);
      setDone(`Restored. Your previous data was saved as ${String(said["aside"])}.`);
      void client.invalidateQueries();
    },
    onError: () => setSure(undefined),
  });
  const read = useMutation({
    mutationFn: async (file: File) => {
      const heads = (await file.slice(0, 2000).text()).split("\n")[0]!.toLowerCase();
      const of = heads.includes("begun_at")
        ? "batches"
        : heads.includes("produce")
          ? "readings"
          : "ingredients";
      const said = await send(`/api/house/tables/${of}`, file);
      return `${String(said["added"])} rows of ${of} are new, ${String(said["known"])} were here already.`;
    },
    onSuccess: (text) => {
      setDone(text);
      void client.invalidateQueries();
    },
  });
  const wrong = error ?? now.error ?? back.error ?? read.error ?? undefined;
  const part = { ...displayFont, fontSize: 18, fontWeight: 700, m: 0 } as const;
  return (
    <TitledDialog title="Backup" width={560} onClose={onClose}>
      <Box>
        <Box component="h3" sx={part}>
          Everything in one file
        </Box>
        <Box sx={{ color: colour("muted"), fontSize: 15, mb: 1 }}>
          Drinks, batches, bottles, tasters and your kitchen. You can restore the file here or on
          another computer. We check it first and keep the data it replaces.
        </Box>
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
          <Button variant="contained" component="a" href="/api/house" download>
            Save everything
          </Button>
          <FileButton
            what="A backup file"
            accept=".zip,.db,application/zip"
            onFile={setSure}
            variant="outlined"
          >
            Restore a file
          </FileButton>
        </Box>
      </Box>
      {sure !== undefined && (
        <Box
          role="alertdialog"
          aria-label="Restore it?"
          sx={{
            px: 2,
            py: 1.5,
            borderRadius: "10px",
            bgcolor: colour("notice"),
            color: colour("onNotice"),
          }}
        >
          This replaces all data in Keen Pitcher with{" "}
          {sure instanceof File ? sure.name : `the backup made ${when(sure.made_at!)}`}. We keep
          your current data as a backup that you can restore.
          <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
            <Button variant="contained" disabled={back.isPending} onClick={() => back.mutate(sure)}>
              Restore
            </Button>
            <Button onClick={() => setSure(undefined)}>Cancel</Button>
          </Box>
        </Box>
      )}
      <Trouble error={wrong} />
      {done && <Box role="status">{done}</Box>}
      <Box>
        <Box component="h3" sx={part}>
          Backups on this computer
        </Box>
        <Box sx={{ color: colour("muted"), fontSize: 15 }}>
          We back up once a day. We keep the last seven of these and the last seven that you made.
        </Box>
        <Box component="ul" aria-label="Backups" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {(kept ?? []).map((one) => (
            <Box
              component="li"
              key={one.name}
              sx={{
                display: "flex",
                alignItems: "center",
                gap: 1,
                borderTop: `1px solid ${colour("hairline")}`,
              }}
            >
              <Box
                sx={{ flex: 1, minWidth: 0, overflowWrap: "anywhere", lineHeight: 1.3, py: 0.5 }}
              >
                {one.made_at ? when(one.made_at) : one.name}
                <Box sx={{ color: colour("muted"), fontSize: 13.5 }}>
                  {one.made_at ? kinds[one.kind] : "can't be read"}, {size(one.bytes)}
                </Box>
              </Box>
              {one.made_at && <Button onClick={() => setSure(one)}>Restore</Button>}
            </Box>
          ))}
        </Box>
        <Button disabled={now.isPending} onClick={() => now.mutate()} sx={{ ml: -2 }}>
          Back up now
        </Button>
      </Box>
      <Box>
        <Box component="h3" sx={part}>
          Tables for a spreadsheet
        </Box>
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
          {tables.map(([of, name]) => (
            <Button
              key={of}
              variant="outlined"
              component="a"
              href={`/api/house/tables/${of}`}
              download={`${of}.csv`}
            >
              {name}
            </Button>
          ))}
          <FileButton
            what="A table"
            accept=".csv,text/csv"
            onFile={(file) => read.mutate(file)}
            variant="outlined"
          >
            Import a table
          </FileButton>
        </Box>
      </Box>
      <Box>
        <Button onClick={onClose}>Close</Button>
      </Box>
    </TitledDialog>
  );
}
