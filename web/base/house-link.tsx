import { Link, type LinkProps } from 'react-router';
import { HOUSE } from '../../contract/base/roles.ts';
import { useSessionQuery } from './api.ts';

/** A link to a page of the house; who cannot open it reads its words alone. */
export function HouseLink(props: LinkProps) {
  const { data } = useSessionQuery();
  return data?.person && HOUSE.includes(data.person.role) ? <Link {...props} /> : <>{props.children}</>;
}
