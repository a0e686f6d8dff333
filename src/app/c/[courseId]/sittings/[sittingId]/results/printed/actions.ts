'use server';
import { cancelReport, printReport as print, reportState } from '@/server/release/sittingReport';
import { acting } from '../../../../../../request';

export async function printReport(courseId: string, sittingId: string, report: unknown) {
  return acting((context) => print(context, courseId, sittingId, report));
}

export async function reportProgress(courseId: string, sittingId: string) {
  return acting((context) => reportState(context, courseId, sittingId));
}

export async function endReport(courseId: string, sittingId: string) {
  return acting((context) => cancelReport(context, courseId, sittingId));
}
