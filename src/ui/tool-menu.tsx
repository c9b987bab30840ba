'use client';

import { useState, type ReactNode } from 'react';
import Dropdown from 'react-bootstrap/Dropdown';

/** A menu whose items are worked out only while it is open: they follow the board, and steps come fast. */
export function ToolMenu({
  text,
  title,
  disabled,
  active,
  autoClose,
  className,
  align,
  children,
}: {
  text: ReactNode;
  title?: string;
  disabled?: boolean;
  active?: boolean;
  autoClose?: 'outside';
  className?: string;
  align?: 'end';
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Dropdown show={open} onToggle={setOpen} autoClose={autoClose}>
      <Dropdown.Toggle variant="plain" title={title} disabled={disabled} active={active}>
        {text}
      </Dropdown.Toggle>
      <Dropdown.Menu className={className} align={align}>
        {open && children}
      </Dropdown.Menu>
    </Dropdown>
  );
}
