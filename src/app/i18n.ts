import { getRequestConfig } from 'next-intl/server';
import messages from '../../messages/en.json';

/** English is the only catalogue so far; another is added here. */
export default getRequestConfig(async () => ({ locale: 'en', messages, timeZone: 'UTC' }));
