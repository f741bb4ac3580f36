import Box from "@mui/material/Box";
import { scaleLinear } from "d3-scale";
import { useId } from "react";
import type { BalanceMapData } from "../../api/client";
import { colour, displayFont } from "../../app/theme";
import { useSize } from "../../ui/useSize";

interface MapPlateProps {
  map: BalanceMapData;
  colour: string | undefined;
  name: string;
}

const LEFT = 34;
const BOTTOM = 40;
const TOP = 8;
const RIGHT = 10;

/** The balance map: sweetness across, acidity up, rays of equal ratio between the named bands. */
export function MapPlate({ map, colour: liquid, name }: MapPlateProps) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const clip = useId();
  const w = Math.max(width, 240);
  const h = Math.min(Math.max(w * 0.86, 250), 424);
  const x = scaleLinear([0, map.sweetness_max], [LEFT, w - RIGHT]);
  const y = scaleLinear([0, map.acidity_max], [h - BOTTOM, TOP]);
  const point = map.point;
  const words = point
    ? `${name}: sweetness ${point.sweetness.toFixed(1)} g in 100 g, acidity ${point.acidity.toFixed(2)} %, ${point.band ?? "no acid"}`
    : "Nothing to drink yet";
  // Far beyond the plate, so that wedges reach its corners.
  const far = 4;
  const ray = (ratio: number) => {
    const sweet = Math.min(map.sweetness_max, map.acidity_max * ratio) * far;
    return [x(sweet), y(sweet / Math.max(ratio, 1e-6))] as const;
  };
  const origin = [x(0), y(0)] as const;
  return (
    <Box ref={box} sx={{ width: "100%" }}>
      <svg
        width={w}
        height={h}
        role="img"
        aria-label={`Balance map. ${words}`}
        style={{ display: "block" }}
      >
        <clipPath id={clip}>
          <rect x={LEFT} y={TOP} width={w - LEFT - RIGHT} height={h - TOP - BOTTOM} rx={12} />
        </clipPath>
        <g clipPath={`url(#${clip})`}>
          <rect x={LEFT} y={TOP} width={w} height={h} fill={colour("enamel")} />
          {map.bands
            .filter((band) => band.name === point?.band)
            .map((band) => {
              const from =
                band.ratio_from > 0 ? ray(band.ratio_from) : [x(0), y(map.acidity_max * far)];
              const to =
                band.ratio_to != null ? ray(band.ratio_to) : [x(map.sweetness_max * far), y(0)];
              const corner = [x(map.sweetness_max * far), y(map.acidity_max * far)];
              return (
                <polygon
                  key={band.name}
                  points={[origin, from, corner, to].map((p) => p.join(",")).join(" ")}
                  fill={colour("wash")}
                />
              );
            })}
          <rect
            x={x(map.typical.sweetness_from)}
            y={y(map.typical.acidity_to)}
            width={x(map.typical.sweetness_to) - x(map.typical.sweetness_from)}
            height={y(map.typical.acidity_from) - y(map.typical.acidity_to)}
            rx={8}
            fill="none"
            stroke={colour("bandName")}
            strokeDasharray="3 4"
          />
          {x.ticks(6).map((t) => (
            <path
              key={`x${t}`}
              d={`M${x(t)} ${TOP}V${h - BOTTOM}`}
              stroke={colour("hairline")}
              strokeOpacity={0.6}
            />
          ))}
          {y.ticks(5).map((t) => (
            <path
              key={`y${t}`}
              d={`M${LEFT} ${y(t)}H${w}`}
              stroke={colour("hairline")}
              strokeOpacity={0.6}
            />
          ))}
          {map.bands.map((band) =>
            band.ratio_from > 0 ? (
              <path
                key={band.name}
                d={`M${origin.join(" ")}L${ray(band.ratio_from).join(" ")}`}
                stroke={colour("bandName")}
                strokeOpacity={0.55}
                strokeWidth={1.2}
              />
            ) : null,
          )}
        </g>
        {map.bands.map((band) => {
          const [bx, by] = bandNameAt(band, map);
          return (
            <text
              key={band.name}
              x={x(bx)}
              y={y(by)}
              textAnchor="middle"
              fill={band.name === point?.band ? colour("ink") : colour("bandName")}
              style={{ ...displayFont, fontSize: 17, fontWeight: 700 }}
            >
              {band.name}
            </text>
          );
        })}
        <g fill={colour("muted")} style={{ fontSize: 12.5 }}>
          {x.ticks(6).map((t) => (
            <text key={t} x={x(t)} y={h - BOTTOM + 16} textAnchor="middle">
              {t}
            </text>
          ))}
          {y
            .ticks(5)
            .filter((t) => t > 0)
            .map((t) => (
              <text key={t} x={LEFT - 8} y={y(t) + 4} textAnchor="end">
                {t.toFixed(1)}
              </text>
            ))}
          <text x={LEFT} y={h - 6}>
            sweetness, g in 100 g
          </text>
          <text x={LEFT + 12} y={TOP + 20}>
            acidity, % as citric
          </text>
          <text x={w - RIGHT} y={h - 6} textAnchor="end">
            dashed: usual for its kind
          </text>
        </g>
        {point && (
          <g data-testid="point" transform={`translate(${x(point.sweetness)} ${y(point.acidity)})`}>
            <circle r={15} fill={liquid} fillOpacity={0.25} />
            <circle r={9} fill={liquid} stroke={colour("ink")} strokeWidth={2.4} />
          </g>
        )}
      </svg>
    </Box>
  );
}

/** Where a band's name stands: on its middle ray, near the edge of the plate, clear of the corner. */
function bandNameAt(
  band: BalanceMapData["bands"][number],
  map: BalanceMapData,
): readonly [number, number] {
  const steepness = (ratio: number) => map.sweetness_max / map.acidity_max / Math.max(ratio, 1e-6);
  const angle = (ratio: number) => Math.atan(steepness(ratio));
  const from = band.ratio_from > 0 ? angle(band.ratio_from) : Math.PI / 2;
  const to = band.ratio_to != null ? angle(band.ratio_to) : 0;
  const middle = (from + to) / 2;
  const reach = Math.min(0.9 / Math.cos(middle), 0.84 / Math.sin(middle), 1.16);
  return [
    Math.max(Math.cos(middle) * reach, 0.12) * map.sweetness_max,
    Math.max(Math.sin(middle) * reach, 0.06) * map.acidity_max,
  ];
}
