import { defineConfigWithVueTs, vueTsConfigs } from "@vue/eslint-config-typescript";
import vue from "eslint-plugin-vue";

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
);
