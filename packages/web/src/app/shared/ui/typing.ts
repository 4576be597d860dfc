/** Whether an event belongs to somebody who writes or chooses in a field, so that keys mean letters there. */
export const isTyping = ({ target }: Event): boolean =>
  target instanceof HTMLInputElement ||
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLElement &&
    (target.isContentEditable || ['combobox', 'menuitem'].includes(target.getAttribute('role') ?? '')));
