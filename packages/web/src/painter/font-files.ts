/** The font files that ship with the app, for outlining text in the browser just as the server does. */

import sg400i from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-400-italic.woff2?url';
import sg400 from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-400-normal.woff2?url';
import sg500i from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-500-italic.woff2?url';
import sg500 from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-500-normal.woff2?url';
import sg600i from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-600-italic.woff2?url';
import sg600 from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-600-normal.woff2?url';
import sg700i from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-700-italic.woff2?url';
import sg700 from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-700-normal.woff2?url';
import sg800i from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-800-italic.woff2?url';
import sg800 from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-800-normal.woff2?url';
import sg900i from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-900-italic.woff2?url';
import sg900 from '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-900-normal.woff2?url';
import ssm400i from '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-400-italic.woff2?url';
import ssm400 from '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-400-normal.woff2?url';
import ssm500i from '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-500-italic.woff2?url';
import ssm500 from '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-500-normal.woff2?url';
import ssm600i from '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-600-italic.woff2?url';
import ssm600 from '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-600-normal.woff2?url';
import ssm700i from '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-700-italic.woff2?url';
import ssm700 from '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-700-normal.woff2?url';

export const FONT_FILES = [
  { family: 'Schibsted Grotesk', weight: 400, italic: false, url: sg400 },
  { family: 'Schibsted Grotesk', weight: 400, italic: true, url: sg400i },
  { family: 'Schibsted Grotesk', weight: 500, italic: false, url: sg500 },
  { family: 'Schibsted Grotesk', weight: 500, italic: true, url: sg500i },
  { family: 'Schibsted Grotesk', weight: 600, italic: false, url: sg600 },
  { family: 'Schibsted Grotesk', weight: 600, italic: true, url: sg600i },
  { family: 'Schibsted Grotesk', weight: 700, italic: false, url: sg700 },
  { family: 'Schibsted Grotesk', weight: 700, italic: true, url: sg700i },
  { family: 'Schibsted Grotesk', weight: 800, italic: false, url: sg800 },
  { family: 'Schibsted Grotesk', weight: 800, italic: true, url: sg800i },
  { family: 'Schibsted Grotesk', weight: 900, italic: false, url: sg900 },
  { family: 'Schibsted Grotesk', weight: 900, italic: true, url: sg900i },
  { family: 'Spline Sans Mono', weight: 400, italic: false, url: ssm400 },
  { family: 'Spline Sans Mono', weight: 400, italic: true, url: ssm400i },
  { family: 'Spline Sans Mono', weight: 500, italic: false, url: ssm500 },
  { family: 'Spline Sans Mono', weight: 500, italic: true, url: ssm500i },
  { family: 'Spline Sans Mono', weight: 600, italic: false, url: ssm600 },
  { family: 'Spline Sans Mono', weight: 600, italic: true, url: ssm600i },
  { family: 'Spline Sans Mono', weight: 700, italic: false, url: ssm700 },
  { family: 'Spline Sans Mono', weight: 700, italic: true, url: ssm700i },
] as const;
