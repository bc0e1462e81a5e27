// SPDX-License-Identifier: Apache-2.0
/** Courses in time: releases, traces, copies. */
package exordium.desktop.draw.time;
