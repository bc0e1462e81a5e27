// SPDX-License-Identifier: Apache-2.0
/** The invented house that ships: its scenario and how it is made. In: a folder. Out: a workspace. */
package exordium.jobs.demo;
