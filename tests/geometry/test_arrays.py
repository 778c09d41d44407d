"""Graphs and near places: against scipy, and the small way against the large one."""

from __future__ import annotations

from unittest import TestCase, mock

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import breadth_first_order, connected_components
from scipy.spatial import cKDTree

from kagami.geometry import arrays
from kagami.geometry.arrays import breadth_first, clustered, linked, neighbours


class Graphs(TestCase):
    def test_components_are_those_of_scipy(self) -> None:
        for seed in range(60):
            chance = np.random.default_rng(seed)
            count = int(chance.integers(1, 400))
            a, b = chance.integers(0, count, (2, int(chance.integers(0, 2 * count))))
            known = connected_components(coo_array((np.ones(len(a)), (a, b)), shape=(count, count)), directed=False)
            found = linked(count, a, b)
            self.assertEqual(int(found.max()) + 1, known[0])
            self.assertEqual(len(set(zip(found.tolist(), known[1].tolist(), strict=True))), known[0])

    def test_a_long_chain_is_one(self) -> None:
        order = np.random.default_rng(1).permutation(5000)
        self.assertEqual(int(linked(5000, order[:-1], order[1:]).max()), 0)

    def test_the_walk_is_that_of_scipy(self) -> None:
        for seed in range(40):
            chance = np.random.default_rng(seed)
            count = int(chance.integers(2, 300))
            chain = np.arange(count - 1)
            more = chance.integers(0, count, (2, int(chance.integers(0, count))))
            more = more[:, more[0] != more[1]]
            a, b = np.unique(np.sort(np.hstack([[chain, chain + 1], more]), axis=0), axis=1)
            graph = neighbours(count, a, b)
            known = breadth_first_order(graph.matrix(), 0, directed=True)
            for small in (0, 10**9):
                with mock.patch.object(arrays, "SMALL_GRAPH", small):
                    order, parent = breadth_first(graph)
                np.testing.assert_array_equal(order, known[0])
                np.testing.assert_array_equal(parent[1:], known[1][1:])


class NearPlaces(TestCase):
    def test_clusters_are_the_chains_of_near_places(self) -> None:
        for seed in range(60):
            chance = np.random.default_rng(seed)
            count = int(chance.integers(1, 300))
            places = chance.uniform(0, 10, (count, 2)).round(int(chance.integers(0, 3)))
            places += chance.normal(0, 0.02, places.shape)
            pairs = cKDTree(places).query_pairs(0.05, output_type="ndarray")
            known = linked(count, pairs[:, 0], pairs[:, 1])
            for most in (0, 10**9):
                with mock.patch.object(arrays, "MOST_COMPARED", most):
                    labels, number = clustered(places, 0.05)
                self.assertEqual(number, int(known.max()) + 1)
                self.assertEqual(len(set(zip(labels.tolist(), known.tolist(), strict=True))), number)
