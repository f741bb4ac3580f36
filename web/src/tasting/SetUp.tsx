import { useParams } from "react-router";
import { Compare } from "./setUp/Compare";
import { Match } from "./setUp/Match";
import { OnePitcher } from "./setUp/OnePitcher";
import { Row } from "./setUp/Row";
import { Train } from "./setUp/Train";

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
