import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** What an effect returns is run when it ends: a call's value is only that by accident. A newer browser answers
 *  `scrollIntoView` with a promise, and the page went blank. */
const effects = {
  selector:
    "CallExpression[callee.name=/^use(Layout)?Effect$/] > ArrowFunctionExpression.arguments:first-child:not([body.type=/BlockStatement|ArrowFunctionExpression/])",
  message: "Write the body of an effect in braces, unless it is its clean-up.",
};

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.ts"] },
  ...tseslint.configs.recommended,
  hooks.configs.flat["recommended-latest"],
  { rules: { "no-restricted-syntax": ["error", effects] } },
);
