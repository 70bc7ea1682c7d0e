/// <reference path="./sql.d.ts" />
import projectsAndDeliveries from './01-projects-and-deliveries.sql';
import keptSpecs from './02-kept-specs.sql';
import layersByParent from './03-layers-by-parent.sql';
import workers from './04-workers.sql';
import whatIsDeleted from './05-what-is-deleted.sql';
import exactSizes from './06-exact-sizes.sql';
import chosenFiles from './07-chosen-files.sql';
import receivers from './08-receivers.sql';
import rulesOfReceivers from './09-rules-of-receivers.sql';
import firstSpec from './10-first-spec.sql';
import intakes from './11-intakes.sql';
import titlesAndNotes from './12-titles-and-notes.sql';
import followers from './13-followers.sql';
import sources from './14-sources.sql';
import zipForIntakes from './15-zip-for-intakes.sql';
import severalSources from './16-several-sources.sql';
import noStatistics from './17-no-statistics.sql';
import numbersOnce from './18-numbers-once.sql';
import handovers from './19-handovers.sql';
import access from './20-access.sql';

/** Numbered steps from an empty database to today's, each as SQL; one that has run is never changed. */
export const MIGRATIONS: readonly string[] = [
  projectsAndDeliveries,
  keptSpecs,
  layersByParent,
  workers,
  whatIsDeleted,
  exactSizes,
  chosenFiles,
  receivers,
  rulesOfReceivers,
  firstSpec,
  intakes,
  titlesAndNotes,
  followers,
  sources,
  zipForIntakes,
  severalSources,
  noStatistics,
  numbersOnce,
  handovers,
  access,
];
