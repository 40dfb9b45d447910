// What other features may use of this one.
export {
  applyDueGroupRules,
  datedPeople,
  departmentFor,
  departmentIdOf,
  knownDepartment,
  listUnits,
  membersOf,
  namesOf,
  supervisorOf,
  teamOf,
  unitsByCodes,
  unitsByIds,
} from './service.ts';
