import { NextResponse } from 'next/server';
import { recordOfSlug } from '@/desk/record-of-slug';
import { theHouse } from '@/desk/the-house';

/** An event's own address, newest or old, leads to its record. */
export async function GET(request: Request, { params }: { params: Promise<{ slug: string }> }) {
  const id = recordOfSlug(theHouse(), (await params).slug);
  return NextResponse.redirect(new URL(id === null ? '/season' : `/records/${id}`, request.url), id === null ? 302 : 301);
}
