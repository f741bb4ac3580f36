import { useParams } from "react-router";
import { Compare } from "./Compare";
import { Match } from "./Match";
import { OnePitcher } from "./OnePitcher";
import { Row } from "./Row";
import { Train } from "./Train";

/** Setting a tasting up: which one stands in the address. */
export default function SetUp() {
  const { what } = useParams();
  switch (what) {
    case "pitcher":
      return <OnePitcher />;
    case "compare":
      return <Compare />;
    case "match":
      return <Match />;
    case "train":
      return <Train />;
    default:
      return <Row />;
  }
}
