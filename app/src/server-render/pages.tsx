// Pages that the server draws and that need no scripts: what goes out to anyone with a link, and paper. With the same
// flags, faces and colours as the app; `scripts/build.mjs` bundles it for Node.
import type { RenderPapers, RenderSharedPage } from '@zephyrfield/core/api/server-render-pages';
import { renderToStaticMarkup } from 'react-dom/server';
import { Papers } from './paper';
import { SharedPage } from './shared-page';

export const drawSharedPage: RenderSharedPage = (input) => renderToStaticMarkup(<SharedPage {...input} />);
export const drawPapers: RenderPapers = (input) => renderToStaticMarkup(<Papers {...input} />);
