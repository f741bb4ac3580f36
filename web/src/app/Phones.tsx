import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, api, type Door } from "../api/client";
import { when } from "../ui/format";
import { Trouble } from "../ui/Trouble";
import { colour, displayFont } from "../ui/theme";
import { TitledDialog } from "../ui/TitledDialog";
import { keys } from "../api/keys";

/** Letting phones in, and putting them out. */
export default function Phones({ onClose }: { onClose: () => void }) {
  const client = useQueryClient();
  const { data, error } = useQuery({
    queryKey: keys.phones(),
    queryFn: () => answer(api.GET("/api/phones")),
    staleTime: 0,
    // A code is good for ten minutes; then there is another one.
    refetchInterval: 20_000,
  });
  const act = useMutation({
    mutationFn: (what: (() => Promise<Door>) | undefined) => what!(),
    onSuccess: (door) => client.setQueryData(keys.phones(), door),
  });
  const door = (open: boolean) =>
    act.mutate(() => answer(api.PUT("/api/phones", { body: { open } })));
  const putOut = (id: string) =>
    act.mutate(() => answer(api.DELETE("/api/phones/{id}", { params: { path: { id } } })));
  return (
    <TitledDialog title="Phones in the kitchen" width={560} onClose={onClose}>
      <Trouble error={error ?? act.error ?? undefined} />
      {data && !data.open && (
        <>
          <Box>
            Use Keen Pitcher from a phone at the stove or in the shop, over your home network. Until
            you connect one, only this computer can use it.
          </Box>
          <Box sx={{ color: colour("muted") }}>
            The connection isn’t encrypted: anyone on this network could read it. Use it only at
            home.
          </Box>
          <Box>
            <Button variant="contained" onClick={() => door(true)} disabled={act.isPending}>
              Connect phones
            </Button>
          </Box>
        </>
      )}
      {data?.open && (
        <>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 3, alignItems: "center" }}>
            {data.picture && (
              <Box
                component="img"
                alt="Address and code to scan"
                src={`data:image/svg+xml;utf8,${encodeURIComponent(data.picture)}`}
                sx={{ width: 200, height: 200, borderRadius: "10px", bgcolor: "#fff" }}
              />
            )}
            <Box sx={{ flex: "1 1 220px" }}>
              <Box>Scan this code with the phone's camera, or open</Box>
              {data.addresses.map((address) => (
                <Box key={address} sx={{ fontWeight: 700, overflowWrap: "anywhere" }}>
                  {address}
                </Box>
              ))}
              <Box sx={{ mt: 1 }}>and type</Box>
              <Box
                data-code
                sx={{
                  ...displayFont,
                  fontSize: 40,
                  fontWeight: 800,
                  color: colour("cobalt"),
                  letterSpacing: "0.06em",
                }}
              >
                {data.code?.replace(/^(\d{3})/, "$1 ")}
              </Box>
              <Box sx={{ color: colour("muted") }}>
                good for {Math.max(1, Math.round((data.good_for_s ?? 0) / 60))} min and one phone
              </Box>
              <Button onClick={() => door(true)} sx={{ px: 0 }}>
                New code
              </Button>
            </Box>
          </Box>
          <Box component="section" aria-label="Connected phones">
            {data.phones.length === 0 && (
              <Box sx={{ color: colour("muted") }}>No phone is connected yet.</Box>
            )}
            <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
              {data.phones.map((phone) => (
                <Box
                  component="li"
                  key={phone.id}
                  sx={{
                    display: "flex",
                    alignItems: "center",
                    gap: 1.5,
                    borderTop: `1px solid ${colour("hairline")}`,
                  }}
                >
                  <Box sx={{ flex: 1, minWidth: 0, overflowWrap: "anywhere" }}>
                    <strong>{phone.name}</strong>{" "}
                    <Box component="span" sx={{ color: colour("muted") }}>
                      last seen {when(phone.last_seen)}
                    </Box>
                  </Box>
                  <Button aria-label={`Disconnect: ${phone.name}`} onClick={() => putOut(phone.id)}>
                    Disconnect
                  </Button>
                </Box>
              ))}
            </Box>
          </Box>
          <Box sx={{ color: colour("muted"), fontSize: 14 }}>
            The connection isn’t encrypted: anyone on this network could read it. Use it only at
            home.
          </Box>
          <Box sx={{ display: "flex", justifyContent: "flex-end", gap: 1 }}>
            <Button onClick={() => door(false)}>Disconnect all</Button>
            <Button variant="contained" onClick={onClose}>
              Close
            </Button>
          </Box>
        </>
      )}
    </TitledDialog>
  );
}

/** What a phone sees that was not let in: where the code goes. */
export function Join() {
  const [code, setCode] = useState(() => window.location.hash.replace(/\D/g, ""));
  const [name, setName] = useState("");
  const come = useMutation({
    mutationFn: () => answer(api.POST("/api/phones/sign-in", { body: { code, name } })),
    onSuccess: () => window.location.replace("/"),
  });
  useEffect(() => {
    // The code isn't left in the address for whoever looks at the phone next.
    if (window.location.hash) window.history.replaceState(null, "", "/join");
  }, []);
  return (
    <Box
      component="main"
      sx={{ p: 3, maxWidth: 440, mx: "auto", display: "grid", gap: 2, alignContent: "start" }}
    >
      <Box component="h1" sx={{ ...displayFont, fontSize: 34, fontWeight: 700, m: 0 }}>
        Keen Pitcher
      </Box>
      <Box sx={{ fontSize: 17 }}>
        Enter the six digits shown on the kitchen screen under <em>Phones in the kitchen</em>.
      </Box>
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          come.mutate();
        }}
        sx={{ display: "grid", gap: 2 }}
      >
        <Field label="The code" value={code} onChange={setCode} mode="numeric" big />
        <Field label="Name for this phone" value={name} onChange={setName} mode="text" />
        {come.error && (
          <Box role="alert" sx={{ color: colour("stop") }}>
            {come.error.message}
          </Box>
        )}
        <Button
          type="submit"
          variant="contained"
          disabled={code.trim() === "" || come.isPending}
          sx={{ minHeight: 60, fontSize: 20 }}
        >
          Connect
        </Button>
      </Box>
    </Box>
  );
}

interface FieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  mode: "numeric" | "text";
  big?: boolean;
}

function Field({ label, value, onChange, mode, big }: FieldProps) {
  return (
    <Box component="label" sx={{ display: "grid", gap: 0.5 }}>
      {label}
      <Box
        component="input"
        value={value}
        inputMode={mode}
        maxLength={40}
        autoComplete="off"
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => onChange(event.target.value)}
        sx={{
          ...(big ? displayFont : {}),
          fontFamily: big ? undefined : "inherit",
          fontSize: big ? 34 : 18,
          letterSpacing: big ? "0.1em" : 0,
          p: 1.5,
          minWidth: 0,
          borderRadius: "10px",
          border: `1.5px solid ${colour("muted")}`,
          bgcolor: colour("enamel"),
          color: colour("ink"),
        }}
      />
    </Box>
  );
}
