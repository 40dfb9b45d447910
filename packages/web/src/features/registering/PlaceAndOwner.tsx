import { DepartmentSelect } from '../../ui/DepartmentSelect.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import type { Common } from './common.ts';
import { FiledByRule, FolderSelect } from './FolderSelect.tsx';
import { wording } from './wording.ts';

/** Where a document goes and whose it is: its folder, or the path that the rule of its type gives, its owner and department. */
export const PlaceAndOwner = ({
  common,
  path = null,
}: {
  common: Common;
  path?: React.ComponentProps<typeof FiledByRule>['place'];
}) => (
  <>
    {common.type?.filing ? (
      <FiledByRule rule={common.type.filing} place={path} />
    ) : (
      <FolderSelect folders={common.folders} value={common.folderId} onChange={common.setFolderId} />
    )}
    <PeoplePicker label={wording.owner} single value={common.owner} onChange={common.setOwner} />
    <DepartmentSelect
      label={wording.department}
      value={common.departmentId}
      onChange={common.setDepartmentId}
      none={wording.departmentOfTheOwner}
    />
  </>
);
