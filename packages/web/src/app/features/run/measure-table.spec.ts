import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatTableHarness } from '@angular/material/table/testing';
import { MeasureTable } from './measure-table';

async function shown() {
  const fixture = TestBed.createComponent(MeasureTable);
  const row = (name: string, values: string[], differs: boolean) => ({ name, unit: 'm', values, differs });
  fixture.componentRef.setInput('runs', [
    { head: '30', changes: true, met: '1/2', isShort: true },
    { head: '60', changes: false, met: '2/2', isShort: false },
  ]);
  fixture.componentRef.setInput('groups', [
    { title: 'whole run', rows: [row('apex', ['1.20', '1.25'], true)], alike: 0 },
    { title: 'by state', rows: [row('time in Trot', ['2.00', '2.00'], false)], alike: 0 },
  ]);
  const table = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatTableHarness);
  return { table, element: fixture.nativeElement as HTMLElement };
}

describe('the table of measures', () => {
  it('has a column for each run, and its measures under the titles of their groups', async () => {
    const { table } = await shown();
    expect(await table.getCellTextByIndex()).toEqual([
      ['whole run'],
      ['apex', '1.20', '1.25', 'm'],
      ['by state'],
      ['time in Trot', '2.00', '2.00', 'm'],
    ]);
    const [heads] = await table.getHeaderRows();
    expect(await heads!.getCellTextByIndex()).toEqual(['measure', '30', '60', 'unit']);
    const [foot] = await table.getFooterRows();
    expect(await foot!.getCellTextByIndex()).toEqual(['as expected', '1/2', '2/2', '']);
  });

  it('says of every row which cell names it', async () => {
    const { element } = await shown();
    const names = [...element.querySelectorAll('[role="rowheader"]')].map((cell) => cell.textContent.trim());
    expect(names).toEqual(['whole run', 'apex', 'by state', 'time in Trot', 'as expected']);
  });

  it('marks rows that differ, runs in which something else happens, and runs that fall short', async () => {
    const { element } = await shown();
    expect([...element.querySelectorAll('.differs')].map((row) => row.textContent.trim())).toEqual([
      'apex1.201.25m',
    ]);
    expect([...element.querySelectorAll('.bad')].map((cell) => cell.textContent)).toEqual(['30', '1/2']);
  });
});
