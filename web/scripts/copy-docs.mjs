// The interactive API page is a package's; its two files ship with the application.
import { copyFileSync } from 'node:fs';

for (const file of ['swagger-ui.css', 'swagger-ui-bundle.js']) {
  copyFileSync(new URL(`../node_modules/swagger-ui-dist/${file}`, import.meta.url), new URL(`../dist/docs/${file}`, import.meta.url));
}
