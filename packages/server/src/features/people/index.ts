// What other features may use of this one.
export {
  applyDueGroupRules,
  datedPeople,
  departmentFor,
  departmentIdOf,
  everyone,
  fallbackApproverOf,
  joinUnits,
  knownDepartment,
  listUnits,
  membersOf,
  namesOf,
  resetPerson,
  supervisorOf,
  teamOf,
  unitsByCodes,
  unitsByIds,
} from './service.ts';
