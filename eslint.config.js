import js from "@eslint/js";
import globals from "globals";

export default [
  { ignores: ["**/node_modules/**", "staticfiles/**", ".venv/**", "**/vendor/**"] },
  js.configs.recommended,
  {
    files: ["roundpantry/**/*.js"],
    languageOptions: { sourceType: "module", globals: globals.browser },
    rules: {
      complexity: ["error", 12],
      "max-len": ["error", { code: 100 }],
      "no-var": "error",
      "prefer-const": "error",
      eqeqeq: "error",
    },
  },
];
