import Box from "@mui/material/Box";
import { memo, useState } from "react";
import { colour } from "../../app/theme";
import type { Drink, DrinkReport } from "../../api/client";
import type { Editor } from "../editing/editor";
import { useAim } from "./aim";
import { AimPanel } from "./AimPanel";
import { Correct } from "./Correct";
import { Ingredients } from "./Ingredients";
import { MapPlate } from "./MapPlate";
import { Notices } from "./Notices";
import { Headline, ProfilePanel } from "./ProfilePanel";
import { useSpread } from "./useSpread";

interface BalanceProps {
  editor: Editor;
  drink: Drink;
  report: DrinkReport;
}

/** The main screen: what goes in, where that lies on the map, and the figures. */
export const Balance = memo(function Balance({ editor, drink, report }: BalanceProps) {
  const aiming = useAim(drink);
  const spread = useSpread(drink);
  const [correcting, setCorrecting] = useState(false);
  return (
    <Box
      sx={{
        flex: 1,
        display: "grid",
        minHeight: 0,
        minWidth: 0,
        px: { xs: 2, md: 3.5 },
        pt: 0.5,
        pb: 2,
        columnGap: { sm: 3, md: 5 },
        rowGap: 2,
        alignItems: "start",
        gridTemplateRows: { md: "auto 1fr" },
        gridTemplateColumns: {
          xs: "minmax(0, 1fr)",
          sm: "minmax(0, 1fr) minmax(0, 1fr)",
          md: "minmax(330px, 410px) minmax(300px, 1fr) 214px",
        },
        gridTemplateAreas: {
          xs: '"head" "map" "lines" "figures"',
          sm: '"lines head" "lines map" "lines figures"',
          md: '"lines map head" "lines map figures"',
        },
        color: colour("ink"),
      }}
    >
      <Box sx={{ gridArea: "lines", minWidth: 0 }}>
        <Ingredients editor={editor} drink={drink} report={report} aiming={aiming} />
        <Notices report={report} />
      </Box>
      <Box sx={{ gridArea: "head", minWidth: 0 }}>
        <Headline report={report} />
      </Box>
      <Box sx={{ gridArea: "map", minWidth: 0 }}>
        <MapPlate
          map={report.map}
          colour={report.profile?.colour}
          name={drink.name}
          cloud={spread?.cloud}
          ring={aiming.ring}
          onRing={(ring) => aiming.set({ ring })}
          proposed={aiming.solution?.rounded_point ?? undefined}
        />
      </Box>
      <Box sx={{ gridArea: "figures", minWidth: 0 }}>
        <ProfilePanel editor={editor} drink={drink} report={report} spread={spread}>
          <AimPanel
            editor={editor}
            drink={drink}
            report={report}
            aiming={aiming}
            onCorrect={() => setCorrecting(true)}
          />
        </ProfilePanel>
      </Box>
      {correcting && (
        <Correct
          editor={editor}
          drink={drink}
          report={report}
          ring={aiming.ring}
          onClose={() => setCorrecting(false)}
        />
      )}
    </Box>
  );
});
