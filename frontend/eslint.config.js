import { defineConfigWithVueTs, vueTsConfigs } from "@vue/eslint-config-typescript";
import vue from "eslint-plugin-vue";

const said = "What somebody else holds is changed by an act of theirs.";
const OTHERS = [
  'AssignmentExpression > MemberExpression.left[property.name="value"][object.type="MemberExpression"]',
  'UpdateExpression > MemberExpression.argument[property.name="value"][object.type="MemberExpression"]',
].map((selector) => ({ selector, message: said }));

export default defineConfigWithVueTs(
  { ignores: ["dist/**", "public/**", "generated/**", "src/api/generated.d.ts"] },
  vue.configs["flat/recommended"],
  vueTsConfigs.strict,
  {
    rules: {
      "vue/max-attributes-per-line": "off",
      "vue/singleline-html-element-content-newline": "off",
      "vue/html-self-closing": "off",
      "vue/html-indent": "off",
      "vue/html-closing-bracket-newline": "off",
      "vue/first-attribute-linebreak": "off",
      "vue/multiline-html-element-content-newline": "off",
      "vue/require-default-prop": "off",
    },
  },
  {
    files: ["src/**"],
    rules: {
      // what a composable holds is changed by its own acts
      "no-restricted-syntax": ["error", ...OTHERS],
      "vue/no-restricted-syntax": ["error", ...OTHERS],
    },
  },
);
