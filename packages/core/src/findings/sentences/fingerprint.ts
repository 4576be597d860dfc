import type { Established } from './finding.js';

/** What a fault is known by, whatever is edited elsewhere: its code, where it is, and what it is about. */
export function fingerprintOf(f: Established): string {
  const { code, lane, state, crossing } = f;
  const inState = `${code}/${lane}/${state}`;
  const between = `${code}/${lane}/${crossing?.from}>${crossing?.to}`;
  switch (f.code) {
    case 'IN4':
      return crossing === null ? inState : `${between}/${f.evidence.guard}`;
    case 'IN5':
      return `${between}/${f.evidence.guard}`;
    case 'IN6':
      return `IN6/${f.evidence.course}/${f.evidence.zone}`;
    case 'OUT4':
      if (f.evidence.kind === 'control') return `OUT4/${f.evidence.control}`;
      return f.evidence.values.length === 0
        ? inState
        : `OUT4/${lane}/${f.evidence.values.map((v) => v.name).join()}`;
    case 'OUT5':
      return `OUT5/${f.evidence.thing}`;
    case 'AG1':
      return `${inState}/${f.evidence.crossings.map((c) => c.to).join('+')}`;
    case 'AG2':
      return `AG2/${f.evidence.channel}/${f.evidence.first.by}/${f.evidence.last.by}`;
    case 'AG3':
      return `AG3/${f.evidence.controls.join('+')}/${f.evidence.key}`;
    case 'AG4':
      return `AG4/${lane}/${f.evidence.states.join('+')}`;
    case 'AG5':
      return `AG5/${lane}/${[...f.evidence.states].sort().join('+')}`;
    case 'AG6':
      return `AG6/${f.evidence.timer}/${f.evidence.waiting}/${state}`;
    case 'RK1':
    case 'RK2':
      return between;
    case 'RK8':
    case 'RK9':
      return `${code}/${lane}/${f.evidence.from}>${f.evidence.to}`;
    case 'RK4':
      return `RK4/${f.evidence.probe}`;
    case 'RK5':
      return `RK5/${f.evidence.tape}/${f.evidence.rate}`;
    case 'RK6':
      return `RK6/${f.evidence.from}>${f.evidence.to}`;
    case 'RK7':
      return `RK7/${lane}/${f.evidence.by}`;
    case 'RK11':
      return `RK11/${f.evidence.course}/${f.evidence.spawn}`;
    case 'TD1':
    case 'TD2':
    case 'TD3':
      return `${code}/${f.evidence.kind}/${f.evidence.name}`;
    case 'TD4':
      return between;
    case 'TD5':
    case 'TD6':
      return `${between}/${f.evidence.term}`;
    case 'TD7':
      return `TD7/dial/${f.evidence.name}`;
    case 'TD8':
      return `TD8/${f.evidence.where}/${f.evidence.field}`;
    default:
      return inState;
  }
}
