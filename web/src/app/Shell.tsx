import { useQueryClient } from "@tanstack/react-query";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useColorScheme } from "@mui/material/styles";
import { CircleHelp, Moon, Ruler, Smartphone, Sun } from "lucide-react";
import { lazy, Suspense, useCallback, useEffect, useRef, useState } from "react";
import { Link, Outlet, useLocation } from "react-router";
import type { Settings } from "../api/client";
import { useChanges } from "../api/changes";
import { figuresChanged } from "../api/keys";
import { useSettings } from "../api/queries";
import { Unloaded } from "../ui/Unloaded";
import { useSaveWord } from "../document/saveWord";
import { Guarded } from "../ui/Guarded";
import { ShelfTroubles } from "../house/ShelfTroubles";
import { colour, displayFont } from "../ui/theme";
import { speakIn } from "../ui/format";
import { Explains, type Word } from "../ui/help";

const Help = lazy(() => import("./Help"));
const Phones = lazy(() => import("./Phones"));

type Spoken = Pick<Settings, "units" | "degrees">;

/** The ways in which a kitchen can be spoken to. */
const ways: Record<string, Spoken & { short: string; long: string }> = {
  as_written: { short: "units as written", long: "As written" },
  metric: { short: "g · ml", long: "Grams and millilitres", units: "metric" },
  us: { short: "cups", long: "US cups and spoons", units: "us" },
  us_f: { short: "cups · °F", long: "US cups and spoons, °F", units: "us", degrees: "fahrenheit" },
};

const spokenIn = ({ units = "as_written", degrees = "celsius" }: Spoken) => `${units} ${degrees}`;

const themes = { system: "Same as this device", light: "Light", dark: "Dark" } as const;

/** The places: address, name, and the addresses that belong to it. */
const places: [string, string, string[]][] = [
  ["/", "Today", ["/"]],
  ["/drinks", "Drinks", ["/drinks", "/paste", "/make-from"]],
  ["/plan", "Plan", ["/plan"]],
  ["/tasting", "Tasting", ["/tasting"]],
  ["/kept", "Kept", ["/kept"]],
  ["/cupboard", "Cupboard", ["/cupboard", "/syrup"]],
];

/** The frame round every screen: the places, and what is remembered for the whole kitchen. */
export function Shell() {
  const { settings, change } = useSettings();
  const { setMode } = useColorScheme();
  const saveWord = useSaveWord((state) => state.word);
  const { pathname } = useLocation();
  const theme = settings.theme ?? "system";
  const way = Object.keys(ways).find((w) => spokenIn(ways[w]!) === spokenIn(settings)) ?? "us";
  speakIn(settings);
  // What is worked out comes with its sentences: in other units they are asked for again.
  const client = useQueryClient();
  const spoken = useRef(way);
  useEffect(() => {
    if (spoken.current === way) return;
    spoken.current = way;
    void figuresChanged(client);
  }, [way, client]);
  useEffect(() => {
    setMode(theme);
  }, [theme, setMode]);
  useChanges();

  const [help, setHelp] = useState<{ word?: Word | undefined }>();
  const explain = useCallback((word?: Word) => setHelp({ word }), []);
  const [phones, setPhones] = useState(false);
  useEffect(() => {
    // With Ctrl: a letter alone is for whoever types, or speaks to the computer.
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "/" || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      explain();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [explain]);
  const place = pathname.split("/").slice(0, 3).join("/");
  const content = useRef<HTMLDivElement>(null);
  const first = useRef(true);
  useEffect(() => {
    // Whoever can't see that the screen has changed is taken to its beginning.
    if (!first.current) content.current?.focus({ preventScroll: true });
    first.current = false;
  }, [place]);

  return (
    <Box sx={{ minHeight: "100dvh", display: "flex", flexDirection: "column" }}>
      <Box
        component="a"
        href="#content"
        onClick={(event: React.MouseEvent) => {
          event.preventDefault();
          content.current?.focus();
        }}
        sx={{
          position: "absolute",
          left: 8,
          top: -60,
          zIndex: 20,
          px: 2,
          minHeight: 44,
          display: "inline-flex",
          alignItems: "center",
          borderRadius: "10px",
          bgcolor: colour("cobalt"),
          color: colour("onCobalt"),
          "&:focus-visible": { top: 8 },
        }}
      >
        Skip to the content
      </Box>
      <Box
        component="header"
        sx={{
          display: "flex",
          alignItems: "center",
          flexWrap: { xs: "wrap", sm: "nowrap" },
          columnGap: { xs: 1, sm: 3 },
          px: { xs: 2, md: 3.5 },
          minHeight: 44,
        }}
      >
        <Box
          component={Link}
          to="/"
          sx={{
            ...displayFont,
            fontSize: 17,
            fontWeight: 700,
            color: colour("cobalt"),
            textDecoration: "none",
            whiteSpace: "nowrap",
            py: 1.25,
          }}
        >
          Keen Pitcher
        </Box>
        <Box
          component="nav"
          aria-label="Places"
          sx={{
            display: "flex",
            gap: { xs: 0, sm: 3 },
            // On the phone the six places have a row of their own.
            justifyContent: { xs: "space-between", sm: "flex-start" },
            order: { xs: 9, sm: 0 },
            flexBasis: { xs: "100%", sm: "auto" },
          }}
        >
          {places.map(([to, name, at]) => {
            const here = at.some(
              (start) => pathname === start || (start !== "/" && pathname.startsWith(`${start}/`)),
            );
            return (
              <Box
                key={to}
                component={Link}
                to={to}
                aria-current={here ? "page" : undefined}
                sx={{
                  color: colour(here ? "ink" : "muted"),
                  textDecoration: "none",
                  fontWeight: here ? 600 : 500,
                  fontSize: { xs: 14.5, sm: 15 },
                  minHeight: 46,
                  minWidth: { xs: 44, sm: 0 },
                  display: "inline-flex",
                  alignItems: "center",
                  justifyContent: "center",
                  whiteSpace: "nowrap",
                }}
              >
                {name}
              </Box>
            );
          })}
        </Box>
        <Box sx={{ flex: 1 }} />
        <Box sx={{ color: colour("muted"), fontSize: 14, whiteSpace: "nowrap" }}>
          <Box
            component="span"
            sx={{ display: { xs: saveWord === "saved" ? "none" : "inline", sm: "inline" } }}
          >
            {saveWord}
          </Box>
        </Box>
        <Button
          aria-label="Words and keys"
          title="Words and keys (Ctrl /)"
          onClick={() => explain()}
          sx={{ color: colour("muted"), px: 1, minWidth: 44 }}
        >
          <CircleHelp size={18} aria-hidden />
        </Button>
        <Button
          aria-label="Phones in the kitchen"
          onClick={() => setPhones(true)}
          sx={{ color: colour("muted"), px: 1, minWidth: 44, display: { xs: "none", sm: "flex" } }}
        >
          <Smartphone size={18} aria-hidden />
        </Button>
        <Choice
          label="Units"
          shown={ways[way]!.short}
          options={Object.entries(ways).map(([value, { long }]) => ({ value, text: long }))}
          chosen={way}
          onChoose={(value) => {
            const { units = "as_written", degrees = "celsius" } = ways[value]!;
            change((s) => ({ ...s, units, degrees }));
          }}
        />
        <Choice
          label="Light or dark"
          shown={themes[theme]}
          icon={theme === "dark" ? <Moon size={18} aria-hidden /> : <Sun size={18} aria-hidden />}
          options={Object.entries(themes).map(([value, text]) => ({ value, text }))}
          chosen={theme}
          onChoose={(value) => change((s) => ({ ...s, theme: value as Settings["theme"] }))}
        />
      </Box>
      <ShelfTroubles />
      <Unloaded />
      <Box
        id="content"
        ref={content}
        tabIndex={-1}
        sx={{
          flex: 1,
          display: "flex",
          flexDirection: "column",
          minHeight: 0,
          minWidth: 0,
          outline: "none",
        }}
      >
        <Guarded key={`${place} ${way}`} name="this screen">
          <Explains value={explain}>
            <Suspense>
              <Outlet />
            </Suspense>
          </Explains>
        </Guarded>
      </Box>
      <Suspense>{help && <Help {...help} onClose={() => setHelp(undefined)} />}</Suspense>
      <Suspense>{phones && <Phones onClose={() => setPhones(false)} />}</Suspense>
    </Box>
  );
}

interface ChoiceProps {
  label: string;
  shown: string;
  icon?: React.ReactNode;
  options: { value: string; text: string }[];
  chosen: string;
  onChoose: (value: string) => void;
}

function Choice({ label, shown, icon, options, chosen, onChoose }: ChoiceProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        aria-label={`${label}: ${shown}`}
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{
          color: colour("muted"),
          fontWeight: 500,
          fontSize: 14,
          px: 1,
          minWidth: 44,
          minHeight: 44,
          whiteSpace: "nowrap",
        }}
      >
        {icon ?? (
          <>
            <Box component="span" sx={{ display: { xs: "none", sm: "inline" } }}>
              {shown}
            </Box>
            <Box component="span" sx={{ display: { xs: "inline-flex", sm: "none" } }}>
              <Ruler size={18} aria-hidden />
            </Box>
          </>
        )}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {options.map(({ value, text }) => (
          <MenuItem
            key={value}
            selected={value === chosen}
            onClick={() => {
              setAnchor(null);
              onChoose(value);
            }}
          >
            {text}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
