import prettier from "eslint-config-prettier";
import pluginVue from "eslint-plugin-vue";
import tseslint from "typescript-eslint";

/** What a template may show that no language changes: marks, keys, examples of input, commands. */
const NO_WORDS = [
  ...["×", "↑", "↓", "←", "→", "○", "▲", "✚", "⊘", "◦", "›", "…"],
  ...["(", ")", ",", ".", ":", "/", "·", "–", "—", "+", "−", "?", "%", "=", "[", "]"],
  ...["-", "!", "&lt;", "&gt;", "<", ">", "*", "#", "~", "Backspace", "s", "c40", "20e/10/5h"],
  ...["7+12m", "25/15/25", "1/1/1", "1, 2, 3, 4"],
  ...["sex", "age", "P50", "P95", "P5", "L", "M", "S"],
];

export default tseslint.config(
  { ignores: ["dist", "node_modules", "src/api/schema.d.ts", "*.js", "*.cjs"] },
  ...tseslint.configs.strictTypeChecked,
  ...pluginVue.configs["flat/recommended"],
  {
    languageOptions: {
      parserOptions: {
        project: "./tsconfig.json",
        tsconfigRootDir: import.meta.dirname,
        extraFileExtensions: [".vue"],
      },
    },
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
    },
  },
  {
    files: ["**/*.vue"],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
    rules: {
      "vue/multi-word-component-names": "off",
      // It takes the cursor whenever the field comes into view, also from who types elsewhere.
      "vue/no-restricted-static-attribute": [
        "error",
        { key: "autofocus", message: "Use v-focus of parts/form/focus." },
      ],
      // What a person reads stands in messages/; marks, keys and figures are no words.
      "vue/no-bare-strings-in-template": ["error", { allowlist: NO_WORDS }],
    },
  },
  {
    // What is not there fails a test by itself.
    files: ["**/*.test.ts", "**/*.model.ts", "src/testing/**"],
    rules: {
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/require-await": "off",
    },
  },
  // What prettier lays out is its own.
  prettier,
);
