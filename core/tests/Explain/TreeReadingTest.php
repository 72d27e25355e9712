<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\TreeLeaf;
use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Learn\Tree\Node;
use Dokimos\Core\Learn\Tree\Part;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Measure\Verdict;
use Dokimos\Core\Table\DateColumn;
use PHPUnit\Framework\TestCase;

final class TreeReadingTest extends TestCase
{
    /** days <= 8? then make among a, b? and days <= 3? else known from 2026-03-01? */
    private static function tree(): TreeModel
    {
        return new TreeModel([
            new Node(0, [800.0, 200.0], 0.32, 'days', 8.0, missingLeft: true, left: 1, right: 6, judged: [400.0, 100.0]),
            new Node(1, [500.0, 50.0], 0.2, 'make', null, ['a', 'b'], ['c'], false, 0.1, 2, 5, [250.0, 25.0]),
            new Node(2, [300.0, 10.0], 0.1, 'days', 3.0, missingLeft: false, left: 3, right: 4, judged: [200.0, 5.0]),
            new Node(3, [200.0, 5.0], 0.1, judged: [190.0, 4.0]),
            new Node(4, [100.0, 5.0], 0.1, judged: [10.0, 1.0]),
            new Node(5, [200.0, 40.0], 0.2, judged: [50.0, 20.0]),
            new Node(6, [300.0, 150.0], 0.4, 'day', 20513.5, missingLeft: false, left: 7, right: 8, judged: [150.0, 75.0], isDate: true),
            new Node(7, [150.0, 20.0], 0.4, judged: [90.0, 15.0]),
            new Node(8, [150.0, 130.0], 0.4, judged: [60.0, 60.0]),
        ], ['no', 'yes'], [], []);
    }

    public function testLeavesAreSentencesWithFiguresOfRowsThatDidNotGrowThem(): void
    {
        $reading = TreeReading::of(self::tree(), 0.2);
        self::assertSame([
            'days up to 3; make a or b',
            'days over 3, up to 8, or missing; make a or b',
            'days up to 8, or missing; make c, or missing',
            'days over 8; day up to '.gmdate('Y-m-d', (int) floor(20513.5 * DateColumn::DAY)),
            'days over 8; day over '.gmdate('Y-m-d', (int) floor(20513.5 * DateColumn::DAY)).', or missing',
        ], array_map(static fn (TreeLeaf $l) => $l->says, $reading->leaves));
        self::assertSame([194, 11, 70, 105, 120], array_map(static fn (TreeLeaf $l) => $l->rows, $reading->leaves));
        self::assertSame(
            ['Sound', 'Thin', 'Thin', 'Split', 'Sound'],
            array_map(static fn (TreeLeaf $l) => $l->verdict, $reading->leaves),
            'few rows; an interval of 22 points; one that holds 20%',
        );
        self::assertTrue($reading->judged);
        self::assertSame([500, 100, 1000], [$reading->rows, $reading->events, $reading->trainingRows]);
        self::assertSame([3, 4, 5, 7, 8], array_map(static fn (TreeLeaf $l) => $l->node, $reading->leaves));
        self::assertCount(8, $reading->branches);
        $sentences = self::sentences(self::tree());
        foreach ($reading->leaves as $leaf) {
            self::assertSame($leaf->says, $sentences[$leaf->node]);
        }
    }

    public function testWithoutRowsKeptBackTheFiguresAreThoseOfTraining(): void
    {
        $bare = new TreeModel(array_map(static fn (Node $n) => $n->judgedBy([]), self::tree()->nodes), ['no', 'yes'], [], []);
        $reading = TreeReading::of($bare, 0.2);
        self::assertFalse($reading->judged);
        self::assertSame([205, 105, 240, 170, 280], array_map(static fn (TreeLeaf $l) => $l->rows, $reading->leaves));
        $whole = new TreeModel(
            [
                new Node(0, [8.0, 2.0], 0.3, 'age', 9.0, missingLeft: true, left: 1, right: 2, missingSeen: false),
                new Node(1, [4.0, 1.0], 0.3),
                new Node(1, [4.0, 1.0], 0.3),
            ],
            ['no', 'yes'],
            [],
            [],
        );
        self::assertSame([1 => 'age up to 9', 2 => 'age over 9'], self::sentences($whole), 'nothing was missing: nothing is said of it');
        $stump = TreeReading::of(new TreeModel([new Node(0, [30.0, 10.0], 0.3)], ['no', 'yes'], [], []), 0.2);
        self::assertSame(['every record'], array_map(static fn (TreeLeaf $l) => $l->says, $stump->leaves));
    }

    public function testANumbersLeavesHaveMeansWithIntervalsOfStudentsT(): void
    {
        $tree = new TreeModel([
            new Node(
                0,
                [300.0, 50.0, 30000.0],
                100.0,
                'km',
                4.0,
                missingLeft: false,
                left: 1,
                right: 2,
                judged: [101.0, 52.0, 10000.0],
                missingSeen: false,
            ),
            new Node(1, [200.0, 45.0, 8000.0], 40.0, judged: [61.0, 48.0, 2400.0]),
            new Node(
                1,
                [100.0, 60.0, 4000.0],
                40.0,
                'km',
                9.0,
                missingLeft: false,
                left: 3,
                right: 4,
                judged: [40.0, 58.1, 5000.0],
                missingSeen: false,
            ),
            new Node(2, [60.0, 62.0, 2000.0], 40.0, judged: [39.0, 58.0, 50000.0]),
            new Node(2, [40.0, 57.0, 1000.0], 40.0, judged: [1.0, 62.0, 0.0]),
        ], null, [], []);
        $reading = TreeReading::of($tree);
        self::assertSame([101, 0, 300, 52.0], [$reading->rows, $reading->events, $reading->trainingRows, $reading->average]);
        [$low, $wide, $single] = $reading->leaves;
        // t(60) at 0.975 is 2.0002978; the error is sqrt(2400 / 60 / 61).
        self::assertEqualsWithDelta(
            [48.0, 48 - 2.0002978 * sqrt(40 / 61), 48 + 2.0002978 * sqrt(40 / 61)],
            [$low->share, $low->low, $low->high],
            1e-6,
        );
        self::assertSame([45.0, 45.0, Verdict::SOUND, null], [$low->trainingShare, $low->answer, $low->verdict, $low->named]);
        self::assertSame(
            [Verdict::THIN, Verdict::THIN],
            [$wide->verdict, $single->verdict],
            'wider than half a standard deviation; one row',
        );
        self::assertSame([62.0, null], [$single->share, $single->low]);
        self::assertSame('Split', TreeReading::of($tree, 48.5)->leaves[0]->verdict);
    }

    public function testLeavesOfSeveralClassesTellOfTheOneThatTheyName(): void
    {
        $tree = new TreeModel([
            new Node(0, [100.0, 60.0, 40.0], 0.6, 'make', null, ['a'], ['b'], true, 0.1, 1, 2, [202.0, 116.0, 82.0], missingSeen: false),
            new Node(1, [90.0, 20.0, 10.0], 0.4, judged: [150.0, 60.0, 30.0]),
            new Node(1, [10.0, 40.0, 30.0], 0.6, judged: [52.0, 56.0, 52.0]),
        ], ['leak', 'noise', 'smell'], [], []);
        $reading = TreeReading::of($tree);
        self::assertSame(['leak', 'noise'], array_map(static fn (TreeLeaf $l) => $l->named, $reading->leaves));
        self::assertSame(
            [[240, 150, 150 / 240], [160, 56, 56 / 160]],
            array_map(static fn (TreeLeaf $l) => [$l->rows, $l->events, $l->share], $reading->leaves),
        );
        self::assertSame(
            ['Sound', 'Split'],
            array_map(static fn (TreeLeaf $l) => $l->verdict, $reading->leaves),
            'against 50% of leak and 29% of noise',
        );
        self::assertNull($reading->average);
        self::assertSame([150 / 240, 56 / 160], array_map(static fn ($b) => $b->share, [$reading->branches[0], $reading->branches[1]]));
    }

    /** @return array<int, string> the path to each leaf, by its place among the nodes */
    private static function sentences(TreeModel $tree): array
    {
        return array_map(
            Part::path(...),
            array_filter($tree->paths(), static fn (int $i): bool => $tree->nodes[$i]->isLeaf(), \ARRAY_FILTER_USE_KEY),
        );
    }
}
