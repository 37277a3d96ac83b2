import { answered } from '@/app/who-asks';
import { NextResponse } from 'next/server';
import { recordOfSlug } from '@/desk/records/record-of-slug';
import { theHouse } from '@/desk/house/the-house';

/** An event's own address, newest or old, leads to its record; an unknown one to what the season finds by its words. */
export const GET = answered(async (doer, request: Request, { params }: { params: Promise<{ slug: string }> }) => {
  const { slug } = await params;
  const id = recordOfSlug(theHouse(), doer, slug);
  const address =
    id === null ? `/season?find=${encodeURIComponent(slug.replaceAll('-', ' ').slice(0, 100))}` : `/records/${id}`;
  return NextResponse.redirect(new URL(address, request.url), id === null ? 302 : 301);
});
