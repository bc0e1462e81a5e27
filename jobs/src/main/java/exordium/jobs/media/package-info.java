// SPDX-License-Identifier: Apache-2.0
/**
 * The drawer: media known, looked into, labelled, lent, retired; plugged in and let go; cleared, grown, proven, given another identifier.
 * In: bench and run. Out: entries and deeds.
 */
package exordium.jobs.media;
