/* The browser's part of every page. Every figure is computed on the server. */
import "./page.js";
import "./bench.js";
import "./keys.js";
import "./scale.js";
