import Box from "@mui/material/Box";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { useQuestion } from "../../api/ask";
import { answer, api } from "../../api/client";
import { colour } from "../../ui/theme";
import { useDrink, WhichDrink, WhoTastes } from "../choose";
import { Pitchers } from "../Pitchers";
import { Room, Title } from "../Table";
import { Begin, Choices, Line, TwoColumns, useSetUp } from "./parts";
import { keys } from "../../api/keys";

/** One pitcher for a group. */
export function OnePitcher() {
  const [params] = useSearchParams();
  const [drinkId, setDrink] = useState(params.get("drink") ?? "");
  const [tasters, setTasters] = useState<string[]>([]);
  const { data: drink } = useDrink(drinkId);
  const { begin, wrong, waits } = useSetUp();
  const {
    data: found,
    error,
    waits: recounts,
  } = useQuestion(
    keys.pitchers(drink, tasters),
    (signal) =>
      answer(api.POST("/api/compute/pitchers", { body: { drink: drink!, tasters }, signal })),
    drink !== undefined && tasters.length > 0,
  );
  const there = drink !== undefined && tasters.length > 0;
  return (
    <Room>
      <Title under="You can add to a glass but not take away. So the pitcher is closest to everyone, and each person stirs in what is missing.">
        One pitcher for all
      </Title>
      <TwoColumns left="minmax(320px, 400px)">
        <Choices>
          <Line label="Which drink?">
            <WhichDrink label="Drink" chosen={drinkId} onChoose={setDrink} />
          </Line>
          <Line label="For whom?">
            <WhoTastes chosen={tasters} onChoose={setTasters} />
          </Line>
          <Begin
            act="Save"
            missing={
              drinkId === "" ? "Choose a drink." : tasters.length === 0 && "Choose who it is for."
            }
            can={there && !waits && !error}
            wrong={error?.message ?? wrong}
            onBegin={() =>
              drink &&
              begin({
                name: `${drink.name} for ${tasters.length}`,
                what: { pitcher: { drink } },
                tasters,
                blind: false,
              })
            }
          />
        </Choices>
        {/* What is found for others than those chosen isn't to be aimed at. */}
        <Box sx={{ minWidth: 0 }} inert={recounts}>
          {there && found && (
            <Pitchers
              drink={drink}
              drinkId={drinkId}
              guests={found.guests.map((g) => g.name)}
              shares={found.shares}
            />
          )}
          {there && found && found.guests.some((g) => g.glasses === 0) && (
            <Box sx={{ color: colour("muted"), mt: 2 }}>
              {found.guests
                .filter((g) => g.glasses === 0)
                .map((g) => g.name)
                .join(", ")}{" "}
              {found.guests.filter((g) => g.glasses === 0).length === 1 ? "hasn’t" : "haven’t"}{" "}
              tasted this kind yet: we use an average taste.
            </Box>
          )}
        </Box>
      </TwoColumns>
    </Room>
  );
}
