import type { Schemas } from "../api/client";
import { useDrinksToChoose } from "../api/queries";
import { Pitchers } from "./Pitchers";
import type { TastingView } from "./queries";
import { Title } from "./Table";
import { namesOf } from "./words";

/** A group's pitcher that was kept: always by what is known of the tasters now. */
export default function PitcherTasting({
  view,
  pitcher,
}: {
  view: TastingView;
  pitcher: Schemas["PitcherAbout"];
}) {
  const { data: shelf } = useDrinksToChoose();
  const names = view.tasters.map((t) => t.taster.name);
  return (
    <>
      <Title under={`For ${namesOf(names, 6)}.`}>{pitcher.drink.name}, one pitcher for all</Title>
      <Pitchers
        drink={pitcher.drink}
        drinkId={shelf?.drinks.find((d) => d.name === pitcher.drink.name)?.id}
        guests={names}
        shares={pitcher.shares}
      />
    </>
  );
}
