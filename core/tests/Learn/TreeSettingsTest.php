<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Tree\DecisionTree;
use Dokimos\Core\Learn\Tree\Part;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** What each setting of a tree promises, and what a path through it demands. */
final class TreeSettingsTest extends TestCase
{
    private const CLASSES = ['a number' => null, 'two classes' => ['no', 'yes'], 'three classes' => ['a', 'b', 'c']];

    private static function task(string $kind): Task
    {
        $random = new Randomizer(new Mt19937(11));
        $x = $g = $day = $y = [];
        for ($i = 0; $i < 800; ++$i) {
            $x[] = 0 === $i % 9 ? \NAN : $random->getInt(-400, 400) / 100;
            $g[] = 0 === $i % 11 ? null : ['k', 'l', 'm', 'n', 'o'][$random->getInt(0, 4)];
            $day[] = $random->getInt(0, 365) * DateColumn::DAY;
            $pull = (is_nan($x[$i]) ? 1.0 : $x[$i]) + ('m' === $g[$i] ? 2.0 : 0.0) + ($day[$i] > 200 * DateColumn::DAY ? 1.0 : 0.0) + $random->getInt(-150, 150) / 100;
            $y[] = match (self::CLASSES[$kind]) {
                null => $pull,
                ['no', 'yes'] => (float) ($pull > 0.5),
                default => $pull < -0.5 ? 0.0 : ($pull < 2.0 ? 1.0 : 2.0),
            };
        }

        return new Task(
            Table::of(['x' => new NumberColumn($x), 'g' => CodedColumn::fromCells($g), 'day' => new DateColumn($day)]),
            ['x', 'g', 'day'],
            $y,
            range(0, 799),
            null,
            self::CLASSES[$kind],
        );
    }

    /** @param array<string, mixed> $settings */
    private static function tree(Task $task, array $settings): TreeModel
    {
        return (new DecisionTree($settings + ['judged' => 0.0, 'depth' => 0, 'leaf' => 1, 'divide' => 2]))->fit($task);
    }

    /** @return iterable<string, array{string, array<string, mixed>}> */
    public static function settings(): iterable
    {
        foreach (array_keys(self::CLASSES) as $kind) {
            foreach ('a number' === $kind ? ['variance'] : ['Gini', 'entropy', 'gain ratio'] as $criterion) {
                foreach ([
                    ['depth' => 3],
                    ['leaf' => 25],
                    ['divide' => 90],
                    ['improvement' => 0.02],
                    ['depth' => 5, 'leaf' => 12, 'divide' => 50],
                ] as $more) {
                    yield $kind.', '.$criterion.', '.json_encode($more) => [
                        $kind,
                        ('a number' === $kind ? [] : ['criterion' => $criterion]) + $more,
                    ];
                }
            }
        }
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('settings')]
    public function testEveryNodeKeepsToTheSettings(string $kind, array $settings): void
    {
        $task = self::task($kind);
        $model = self::tree($task, $settings);
        self::assertGreaterThan(1, \count($model->nodes));
        $rows = static fn (int $node): float => null === $task->classes ? $model->nodes[$node]->counts[0] : array_sum($model->nodes[$node]->counts);
        foreach ($model->nodes as $i => $node) {
            self::assertLessThanOrEqual($settings['depth'] ?? 99, $node->depth);
            if ($node->isLeaf()) {
                self::assertGreaterThanOrEqual($settings['leaf'] ?? 1, $rows($i));
                continue;
            }
            self::assertGreaterThanOrEqual($settings['divide'] ?? 2, $rows($i));
            self::assertSame($rows($i), $rows($node->left) + $rows($node->right), 'no row is lost at a division');
            self::assertSame($node->depth + 1, $model->nodes[$node->left]->depth);
            // The gain ratio is held against its own threshold; what a node keeps is the fall of its impurity.
            self::assertGreaterThanOrEqual(
                'gain ratio' === ($settings['criterion'] ?? '') ? 0.0 : $settings['improvement'] ?? 0.0,
                $node->improvement + 1e-12,
            );
        }
        // Each row ends in a leaf whose path it meets, and in no other.
        $leaves = $model->leaves($task->table);
        foreach ($model->paths() as $leaf => $path) {
            if (!$model->nodes[$leaf]->isLeaf()) {
                continue;
            }
            $own = $task->rows;
            foreach ($path as $name => $part) {
                $own = $part->met($task->table->column((string) $name), $own);
            }
            self::assertSame(array_keys($leaves, $leaf, true), $own);
        }
    }

    #[DataProvider('kinds')]
    public function testPruningOnlyTakesAway(string $kind): void
    {
        $task = self::task($kind);
        $full = self::tree($task, ['leaf' => 5]);
        foreach (null === $task->classes ? ['by cost-complexity'] : ['by cost-complexity', 'by pessimistic error'] as $way) {
            $less = self::tree($task, ['leaf' => 5, 'pruning' => $way]);
            self::assertLessThan(\count($full->nodes), \count($less->nodes));
            self::assertSame($full->nodes[0]->counts, $less->nodes[0]->counts);
            $columns = static fn (TreeModel $m): array => [$m->nodes[0]->column, $m->nodes[0]->threshold, $m->nodes[0]->leftLevels];
            if (\count($less->nodes) > 1) {
                self::assertSame($columns($full), $columns($less));
            }
        }
    }

    /** @return iterable<string, array{string}> */
    public static function kinds(): iterable
    {
        foreach (array_keys(self::CLASSES) as $kind) {
            yield $kind => [$kind];
        }
    }

    /** @return iterable<string, array{Part, string, list<int>}> what is demanded; how it is said; rows of -1, 2, 5, 9 and missing that meet it */
    public static function stretches(): iterable
    {
        yield 'up to' => [new Part(null, null, 5.0, false), 'x up to 5', [0, 1, 2]];
        yield 'up to, or missing' => [new Part(null, null, 5.0, true), 'x up to 5, or missing', [0, 1, 2, 4]];
        yield 'over' => [new Part(null, 2.0, null, false), 'x over 2', [2, 3]];
        yield 'between' => [(new Part(null, -1.0, null, false))->and(new Part(null, null, 5.0, false)), 'x over -1, up to 5', [1, 2]];
        yield 'narrowed twice' => [
            (new Part(null, null, 5.0, true))->and(new Part(null, null, 2.0, true)),
            'x up to 2, or missing',
            [0, 1, 4],
        ];
        yield 'known, below a bound' => [(new Part(null, null, 2.0, true))->and(new Part(null, null, \INF, false)), 'x up to 2', [0, 1]];
        yield 'missing, over a bound' => [(new Part(null, 2.0, null, true))->and(new Part(null, \INF, null, true)), 'x missing', [4]];
        yield 'missing alone' => [new Part(null, \INF, null, true), 'x missing', [4]];
        yield 'known' => [new Part(null, null, \INF, false), 'x known', [0, 1, 2, 3]];
    }

    /** @param list<int> $rows */
    #[DataProvider('stretches')]
    public function testAStretchIsSaidAndMet(Part $part, string $sentence, array $rows): void
    {
        self::assertSame($sentence, $part->sentence('x'));
        self::assertSame($rows, $part->met(new NumberColumn([-1.0, 2.0, 5.0, 9.0, \NAN]), [0, 1, 2, 3, 4]));
    }

    public function testLevelsAreSaidAndMet(): void
    {
        $column = CodedColumn::fromCells(['a', 'b', 'c', null, 'new']);
        $part = new Part(['a', 'c'], missing: true);
        self::assertSame('size a or c, or missing', $part->sentence('size'));
        self::assertSame([0, 2, 3], $part->met($column, [0, 1, 2, 3, 4]));
        self::assertSame([2], $part->and(new Part(['c', 'd'], missing: false))->met($column, [0, 1, 2, 3, 4]));
        self::assertSame('size missing', (new Part([], missing: true))->sentence('size'));
        self::assertSame(
            'size a or b or c or d or 2 others',
            str_replace(', ', ' or ', (new Part(['a', 'b', 'c', 'd', 'e', 'f'], missing: false))->sentence('size')),
        );
        self::assertSame('every record', Part::path([]));
        $this->expectException(\DomainException::class);
        $part->met(new NumberColumn([1.0]), [0]);
    }

    public function testDatesAreSaidAsDays(): void
    {
        $part = new Part(null, 365.0, null, false, true);
        self::assertSame('day over 1971-01-01', $part->sentence('day'));
        self::assertSame([1], $part->met(new DateColumn([364 * DateColumn::DAY, 366 * DateColumn::DAY, DateColumn::MISSING]), [0, 1, 2]));
    }
}
