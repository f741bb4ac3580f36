import { lazy, memo, Suspense, useCallback, useState } from "react";
import type { Drink, DrinkReport, Spot } from "../../api/client";
import { useStable } from "../../ui/useStable";
import type { Editor } from "../editing/editor";
import { useAim } from "./aim";
import { AimPanel } from "./AimPanel";
import { Ingredients } from "./Ingredients";
import { MapPlate } from "./MapPlate";
import { MapNotes } from "./MapNotes";
import { Notices } from "./Notices";
import { Figures, Headline, InWords, Judged, Takes } from "./ProfilePanel";
import { useAimBrought } from "./useAimBrought";
import { useCost } from "./useCost";
import { useDrinkers } from "./useDrinkers";
import { useSpread } from "./useSpread";
import look from "./Balance.module.css";

const Correct = lazy(() => import("./Correct"));
const LessSugar = lazy(() => import("./LessSugar"));

interface BalanceProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
}

/** The main screen: what goes in, where that lies on the map, and the figures. */
export const Balance = memo(function Balance({ editor, drink, report }: BalanceProps) {
  const aiming = useAim(drink);
  const spread = useSpread(drink);
  const cost = useCost(drink);
  const drinkers = useDrinkers(drink.family);
  const [open, setOpen] = useState<"correct" | "less" | undefined>();
  useAimBrought(aiming.set);
  const setRing = useStable((ring: Spot) => aiming.set({ ring }));
  const correct = useCallback(() => setOpen("correct"), []);
  const less = useCallback(() => setOpen("less"), []);
  const close = () => setOpen(undefined);
  return (
    <div className={look.balance}>
      <div className={look.lines}>
        <Ingredients editor={editor} drink={drink} report={report} aiming={aiming} />
        <Notices frames={report.frames} />
      </div>
      <div className={look.head}>
        <Headline profile={report.profile} point={report.map.point} />
      </div>
      <div className={look.map}>
        <MapPlate
          map={report.map}
          colour={report.profile?.colour}
          name={drink.name}
          cloud={spread?.cloud}
          ring={aiming.ring}
          onRing={setRing}
          drinkers={drinkers}
          proposed={aiming.solution?.rounded_point ?? undefined}
        />
        <MapNotes />
        <Takes report={report} cost={cost} />
      </div>
      <div className={look.figures}>
        <Figures profile={report.profile} rests={report.rests_on} spread={spread} />
        {report.profile && report.map.point && (
          <AimPanel
            editor={editor}
            name={drink.name}
            aiming={aiming}
            onCorrect={correct}
            onLess={less}
          />
        )}
        <InWords report={report} />
        <Judged editor={editor} family={drink.family} />
      </div>
      <Suspense>
        {open === "less" && <LessSugar editor={editor} drink={drink} onClose={close} />}
        {open === "correct" && (
          <Correct
            editor={editor}
            drink={drink}
            report={report}
            ring={aiming.ring}
            onClose={close}
          />
        )}
      </Suspense>
    </div>
  );
});
