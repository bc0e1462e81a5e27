// SPDX-License-Identifier: Apache-2.0
/** A server for boards that start over the network: its kit of files, tries against real and played servers, logs. */
package exordium.jobs.network;
