import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuestion } from "../../api/ask";
import { answer, api, asking, type Drink, type Schemas } from "../../api/client";
import { colour, displayFont } from "../../ui/theme";
import { temperature, volume } from "../../ui/format";
import { Trouble } from "../../ui/Trouble";
import { useForWhom } from "../balance/useForWhom";
import look from "./Size.module.css";
import { keys } from "../../api/keys";

/** The serving card, and what stands on a label. */
export function Glass({ drink }: { drink: Drink }) {
  const { data, error, again } = useQuestion(
    keys.glass(drink.steps, drink.vessels, drink.family),
    (signal) =>
      answer(api.POST("/api/compute/glass", { body: { drink }, headers: asking("glass"), signal })),
  );
  if (!data) return <Trouble error={error} again={again} />;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 330px" },
        gap: { xs: 3, md: 5 },
        alignItems: "start",
      }}
    >
      {data.card ? (
        <Card card={data.card} drink={drink} />
      ) : (
        <Box sx={{ color: colour("muted") }}>
          This drink has no glasses yet. Add a “Serve” step to see its card.
        </Box>
      )}
      {data.facts && <Facts facts={data.facts} name={drink.name} />}
    </Box>
  );
}

function Heading({ children }: { children: React.ReactNode }) {
  return (
    <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0, mb: 0.75 }}>
      {children}
    </Box>
  );
}

function Card({ card, drink }: { card: Schemas["Card"]; drink: Drink }) {
  const fizzy = card.standing.some((s) => s.moments.some((m) => m.fizz >= 0.1));
  return (
    <Box sx={{ display: "grid", gap: 3, minWidth: 0 }}>
      <section aria-label="In the glass, in this order">
        <Heading>In the glass, in this order</Heading>
        <Box component="ol" sx={{ m: 0, pl: 2.5, fontSize: 16, lineHeight: 1.6 }}>
          {card.order.map((line, i) => (
            <li key={i}>{line}</li>
          ))}
        </Box>
        {card.parts && <Box sx={{ mt: 1, fontWeight: 600 }}>{card.parts}.</Box>}
        {card.jug && <Box sx={{ color: colour("muted") }}>{card.jug}</Box>}
      </section>
      <section aria-label="While it stands">
        <Heading>While it stands</Heading>
        <Box sx={{ overflowX: "auto" }}>
          <table className={look.facts}>
            <thead>
              <tr>
                <th scope="col">after</th>
                {card.standing[0]?.moments.map((m) => (
                  <th scope="col" key={m.minutes}>
                    {m.minutes.toFixed(0)} min
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {card.standing.map((way) => (
                <tr key={way.cooling} data-standing={way.cooling}>
                  <th scope="row">{way.name}</th>
                  {way.moments.map((m) => (
                    <td key={m.minutes}>
                      {temperature(m.temperature_c)}
                      <div className={look.small}>
                        {m.watered_percent >= 0.5
                          ? `${m.watered_percent.toFixed(0)} % ice water`
                          : "no ice water"}
                        {m.ice_g >= 1 && `, ${m.ice_g.toFixed(0)} g ice`}
                      </div>
                      <div className={look.small}>
                        {m.sweetness.toFixed(1)} g sweet{fizzy && `, ${m.fizz.toFixed(1)} vol fizz`}
                      </div>
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </Box>
        <Box sx={{ fontSize: 13.5, color: colour("muted"), mt: 0.5 }}>
          On a table at {temperature(21)} (estimated); up to twice as fast in sun and wind.
        </Box>
      </section>
      {card.tastes.length > 0 && (
        <section aria-label="One base for every taste">
          <Heading>One base for every taste</Heading>
          <table className={look.facts}>
            <tbody>
              {card.tastes.map((t) => (
                <tr key={t.taste}>
                  <th scope="row">{t.taste}</th>
                  <td>{t.add ? `${t.add} into the glass` : "as it is"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      <ForWhom drink={drink} />
      <section aria-label="With spirit">
        <Heading>With spirit, for those who want it</Heading>
        <Box>
          {volume(card.with_spirit.spirit_ml)} of 40 % in a glass makes{" "}
          <strong>{card.with_spirit.percent.toFixed(1)} % vol</strong>,{" "}
          {card.with_spirit.grams.toFixed(0)} g of alcohol.
        </Box>
        <Box sx={{ color: colour("muted") }}>{card.with_spirit.message}</Box>
      </section>
    </Box>
  );
}

/** What each of those who taste stirs into a glass of it, by their own ideal. */
function ForWhom({ drink }: { drink: Drink }) {
  const all = useForWhom(drink);
  if (all.length === 0) return null;
  return (
    <section aria-label="For whom">
      <Heading>For whom</Heading>
      <table className={look.facts}>
        <tbody>
          {all.map((one) => (
            <tr key={one.id}>
              <th scope="row">{one.name}</th>
              <td>{one.does}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Facts({ facts, name }: { facts: Schemas["Facts"]; name: string }) {
  const rows: [string, string][] = [
    ["energy", `${facts.energy_kj.toFixed(0)} kJ, ${facts.energy_kcal.toFixed(0)} kcal`],
    ["sugars", `${facts.sugars_g.toFixed(0)} g`],
    ["fat", `${facts.fat_g.toFixed(1)} g`],
    ["protein", `${facts.protein_g.toFixed(1)} g`],
    ["salt", `${facts.salt_g.toFixed(2)} g`],
  ];
  if (facts.alcohol_percent >= 0.05) {
    rows.push([
      "alcohol",
      `${facts.alcohol_percent.toFixed(1)} % vol, ${facts.alcohol_g.toFixed(0)} g`,
    ]);
  }
  return (
    <Box
      component="section"
      aria-label="On the label"
      sx={{
        bgcolor: colour("enamel"),
        border: `2px solid ${colour("ink")}`,
        borderRadius: "6px",
        p: 2,
      }}
    >
      <Box component="h2" sx={{ ...displayFont, fontSize: 20, fontWeight: 700, m: 0 }}>
        {name}
      </Box>
      <Box sx={{ fontSize: 14, color: colour("muted"), mb: 1 }}>
        {facts.for_glass ? `a glass of ${volume(facts.volume_ml)}` : "100 ml"}
      </Box>
      <table className={look.facts}>
        <tbody>
          {rows.map(([what, value]) => (
            <tr key={what}>
              <th scope="row">{what}</th>
              <td>{value}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Box sx={{ mt: 1.25, fontSize: 14 }}>
        <strong>Made from:</strong> {facts.ingredients.join(", ")}.
      </Box>
      <Box sx={{ mt: 0.5, fontSize: 14 }}>
        <strong>Contains:</strong>{" "}
        {facts.allergens.length ? facts.allergens.join(", ") : "no common allergens in our tables"}.
      </Box>
      <Button
        className="no-print"
        variant="outlined"
        onClick={() => window.print()}
        sx={{ mt: 1.5 }}
      >
        Print
      </Button>
    </Box>
  );
}
