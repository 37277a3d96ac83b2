import iso from 'i18n-iso-countries/index.js';
import english from 'i18n-iso-countries/langs/en.json';
import { currencies, type Currency } from './money';

iso.registerLocale(english);

/** Names in use that the standard's list does not have. */
const others: Readonly<Record<string, string>> = {
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  'northern ireland': 'GB',
  'great britain': 'GB',
  britain: 'GB',
  uk: 'GB',
  'u.k.': 'GB',
  usa: 'US',
  'u.s.a.': 'US',
  'u.s.': 'US',
  america: 'US',
  holland: 'NL',
  'the netherlands': 'NL',
  eire: 'IE',
  éire: 'IE',
  'republic of ireland': 'IE',
  korea: 'KR',
  deutschland: 'DE',
  österreich: 'AT',
  schweiz: 'CH',
  suisse: 'CH',
  españa: 'ES',
  italia: 'IT',
  polska: 'PL',
  danmark: 'DK',
  norge: 'NO',
  sverige: 'SE',
  suomi: 'FI',
  ísland: 'IS',
  belgië: 'BE',
  belgique: 'BE',
  türkiye: 'TR',
  'czech republic': 'CZ',
  'hong kong': 'HK',
  macau: 'MO',
  taiwan: 'TW',
};

/**
 * The country (ISO 3166-1, two letters) that a name or a code of two or three letters means; `null`: none that is
 * known.
 */
export function countryOf(text: string): string | null {
  const name = text.trim();
  if (name === '' || name.length > 80) return null;
  const known = others[name.toLowerCase()];
  if (known !== undefined) return known;
  if (/^[A-Za-z]{2}$/.test(name)) return iso.isValid(name.toUpperCase()) ? name.toUpperCase() : null;
  if (/^[A-Za-z]{3}$/.test(name)) return iso.alpha3ToAlpha2(name.toUpperCase()) ?? null;
  return iso.getAlpha2Code(name, 'en') ?? null;
}

/** The English name of a country by its two letters; the letters themselves where they are none. */
export function countryName(code: string): string {
  return iso.getName(code, 'en') ?? code;
}

/** The money of each country (ISO 4217, list one, 2026), where it has one of its own or shares one. */
const monies =
  'AED:AE;AFN:AF;ALL:AL;AMD:AM;AOA:AO;ARS:AR;AUD:AU CC CX HM KI NF NR TV;AWG:AW;AZN:AZ;BAM:BA;BBD:BB;BDT:BD;BHD:BH;BIF:BI;BMD:BM;' +
  'BND:BN;BOB:BO;BRL:BR;BSD:BS;BTN:BT;BWP:BW;BYN:BY;BZD:BZ;CAD:CA;CDF:CD;CHF:CH LI;CLP:CL;CNY:CN;COP:CO;CRC:CR;CUP:CU;CVE:CV;CZK:CZ;' +
  'DJF:DJ;DKK:DK FO GL;DOP:DO;DZD:DZ;EGP:EG;ERN:ER;ETB:ET;' +
  'EUR:AD AT AX BE BG BL CY DE EE ES FI FR GF GP GR HR IE IT LT LU LV MC ME MF MQ MT NL PM PT RE SI SK SM TF VA XK YT;FJD:FJ;FKP:FK;' +
  'GBP:GB GG IM JE;GEL:GE;GHS:GH;GIP:GI;GMD:GM;GNF:GN;GTQ:GT;GYD:GY;HKD:HK;HNL:HN;HTG:HT;HUF:HU;IDR:ID;ILS:IL PS;INR:IN;IQD:IQ;IRR:IR;' +
  'ISK:IS;JMD:JM;JOD:JO;JPY:JP;KES:KE;KGS:KG;KHR:KH;KMF:KM;KPW:KP;KRW:KR;KWD:KW;KYD:KY;KZT:KZ;LAK:LA;LBP:LB;LKR:LK;LRD:LR;LSL:LS;' +
  'LYD:LY;MAD:EH MA;MDL:MD;MGA:MG;MKD:MK;MMK:MM;MNT:MN;MOP:MO;MRU:MR;MUR:MU;MVR:MV;MWK:MW;MXN:MX;MYR:MY;MZN:MZ;NAD:NA;NGN:NG;NIO:NI;' +
  'NOK:BV NO SJ;NPR:NP;NZD:CK NU NZ PN TK;OMR:OM;PEN:PE;PGK:PG;PHP:PH;PKR:PK;PLN:PL;PYG:PY;QAR:QA;RON:RO;RSD:RS;RUB:RU;RWF:RW;SAR:SA;' +
  'SBD:SB;SCR:SC;SDG:SD;SEK:SE;SGD:SG;SHP:SH;SLE:SL;SOS:SO;SRD:SR;SSP:SS;STN:ST;SYP:SY;SZL:SZ;THB:TH;TJS:TJ;TMT:TM;TND:TN;TOP:TO;' +
  'TRY:TR;TTD:TT;TWD:TW;TZS:TZ;UAH:UA;UGX:UG;USD:AS BQ EC FM GU IO MH MP PA PR PW SV TC TL UM US VG VI;UYU:UY;UZS:UZ;VES:VE;VND:VN;' +
  'VUV:VU;WST:WS;XAF:CF CG CM GA GQ TD;XCD:AG AI DM GD KN LC MS VC;XCG:CW SX;XOF:BF BJ CI GW ML NE SN TG;XPF:NC PF WF;YER:YE;ZAR:ZA;' +
  'ZMW:ZM;ZWG:ZW';

const moneyByCountry = new Map(
  monies.split(';').flatMap((text): [string, Currency][] => {
    const [code = '', countries = ''] = text.split(':');
    const currency = currencies.find((known) => known === code);
    return currency === undefined ? [] : countries.split(' ').map((country) => [country, currency]);
  }),
);

/** The currency in which one pays in a country, by its name or code; `null`: not known. */
export function currencyOf(country: string): Currency | null {
  return moneyByCountry.get(countryOf(country) ?? '') ?? null;
}
