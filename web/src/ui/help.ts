import { createContext, useContext } from "react";

/** The words that the screens explain, by the name that they are touched by. */
export const words = {
  "sugar to acid":
    "Grams of sweetness for each gram of acid. Lemonade is mostly 12 to 18 to 1: lower is sourer, higher is sweeter. It says nothing about strength: thin and strong drinks can have the same balance.",
  band: "Tart, bright, round and sweet are ranges of sugar to acid. They are drawn on the map as wedges.",
  sweetness:
    "What all sweeteners together taste like, as grams of table sugar in 100 g of the drink. Most people like 8 to 12 in a cold drink.",
  acidity:
    "All acid in the drink, as grams of citric acid in 100 g. It is what tastes sour, and what a drop test measures.",
  "°Bx":
    "Degrees Brix: grams of everything dissolved in 100 g, mostly sugar. A refractometer reads it. Orange juice has about 11, a simple syrup 50.",
  pH: "How strong the acid is, from 0 to 14. Lower is more acidic. Below 4.2 most harmful bacteria don't grow. It tells little about how sour a drink tastes: that is acidity.",
  fizz: "Litres of carbon dioxide dissolved in a litre. Fresh soda has 3 to 4 volumes; below 1.5 a drink tastes flat.",
  alcohol: "Percent of the volume.",
  volume: "What is ready to serve, after straining and boiling, at 20 °C.",
  "sugar a glass": "Grams of all sugars in one glass, as on a label.",
  "likely range":
    "Fruit varies, and hands measure roughly. Nine times out of ten the drink is inside this range. Measuring the juice narrows it.",
  estimated:
    "No table has this figure. We worked it out or judged it, and show the range where we know it.",
  measured: "You measured this in your kitchen, and it replaces the figure from the tables.",
  "noticeable step":
    "The smallest difference that most people notice: about 10 % of sweetness, or 15 % of acidity.",
  balance:
    "Where a drink is on the map: how sweet and how sour. Your own balance is the place you like best.",
  "hands-on": "Time when somebody has to work on it. The rest is unattended: steeping, chilling.",
  extracted: "The share of taste and colour that has left the leaves, fruit or spice.",
  "water activity":
    "How much of the water is free for anything to grow in, from 0 to 1. Below 0.85 most bacteria can't grow.",
  headspace: "Room left empty in a bottle, so that it doesn't burst or spill.",
} as const;

/** One of those words. */
export type Word = keyof typeof words;

/** Opens the explanation of a word, or all of them. */
export const Explains = createContext<(word?: Word) => void>(() => undefined);

/** How a screen opens it. */
export const useExplains = () => useContext(Explains);
