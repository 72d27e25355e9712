<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Account\User;
use App\Decision\Decision;
use App\Decision\Lists;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Score\ScoredTables;
use App\Score\Scoring;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\Players;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Progress;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** Says for a whole list why its records have their answers: a sentence each, and how many mainly the same speaks for. */
final readonly class Because
{
    /** Records with the highest answers that are looked at, at most. */
    private const MOST = 400;
    /** Background records each is held against. */
    private const AGAINST = 24;
    private const TOP = 3;

    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private ScoredTables $scored,
        private Subjects $subjects,
        private Lists $lists,
    ) {
    }

    public function start(Scoring $scoring, User $user): Job
    {
        if (!$scoring->isDone()) {
            throw new Problem(409, 'The scoring is not finished.');
        }

        return $this->jobs->once(
            $scoring->study(),
            $user,
            BecauseRunner::KIND,
            $scoring->id(),
            \sprintf('Reasons for %s', $scoring->table()->name()),
            Jobs::LONG,
            ['all' => []],
        );
    }

    private function running(Scoring $scoring): ?Job
    {
        return $this->jobs->underWay(BecauseRunner::KIND, $scoring->id());
    }

    public function view(Scoring $scoring): BecauseView
    {
        $kept = $scoring->because();

        return new BecauseView(
            $kept['looked'] ?? 0,
            array_map(static fn (array $g): BecauseGroup => new BecauseGroup(
                $g['says'],
                $g['records'],
                $g['answer'] ?? null,
                array_map(
                    static fn (int|string $column, float|int $value): GroupEffect => new GroupEffect((string) $column, (float) $value),
                    array_keys($g['effects'] ?? []),
                    array_values($g['effects'] ?? []),
                ),
            ), $kept['groups'] ?? []),
            $this->running($scoring)?->id(),
        );
    }

    /** Looks at the records called, or those with the highest answers, and keeps what it finds. */
    public function look(Scoring $scoring, Progress $progress): void
    {
        $most = Task::TWO === $scoring->task() && $scoring->called() > 0 ? min(self::MOST, $scoring->called()) : self::MOST;
        $rows = $this->scored->highestFirst($scoring, 0, min($most, $scoring->scored()));
        $highest = \count($rows);
        $rows = $this->withLists($scoring, $rows);
        $sentences = $groups = [];
        if ([] === $rows) {
            $this->keep($scoring, [], []);

            return;
        }
        [$reasoning, $all] = $this->subjects->group($scoring, $rows);
        foreach ($rows as $k => $row) {
            $progress->report($k / \count($rows), \sprintf('%d of %d records', $k, \count($rows)));
            $record = $all->take([$k]);
            $told = $reasoning->account($record, Answering::classOf($reasoning, $reasoning->model->answers($record)), self::AGAINST);
            if (null === $told) {
                continue;
            }
            $order = array_keys($told->players);
            usort($order, static fn (int $a, int $b): int => abs($told->values[$b]) <=> abs($told->values[$a]));
            $sentences[$row + 1] = implode('; ', array_map(
                static fn (int $j): string => self::said($scoring, $record, $told->players[$j], $told->values[$j]),
                \array_slice($order, 0, self::TOP),
            ));
            if ($k >= $highest) {
                continue;
            }
            // What speaks for the answer most.
            usort($order, static fn (int $a, int $b): int => $told->values[$b] <=> $told->values[$a]);
            $names = array_map(Players::named(...), $told->players);
            $main = implode(' and ', array_map(
                static fn (string $c): string => self::mainly($reasoning, $record, $c),
                $told->players[$order[0]],
            ));
            $group = $groups[$main] ?? ['records' => 0, 'answer' => 0.0, 'effects' => array_fill_keys($names, 0.0)];
            ++$group['records'];
            $group['answer'] += $told->answer;
            foreach ($told->values as $j => $value) {
                $group['effects'][$names[$j]] += $value;
            }
            $groups[$main] = $group;
        }
        $this->keep($scoring, $sentences, $groups);
    }

    /**
     * Those on a list are looked at too, though their answers may not be the highest.
     *
     * @param list<int> $rows
     *
     * @return list<int>
     */
    private function withLists(Scoring $scoring, array $rows): array
    {
        $on = array_fill_keys($rows, true);
        foreach ($this->entities->getRepository(Decision::class)->findBy(['scoring' => $scoring]) as $decision) {
            $listed = $this->lists->of($scoring, $decision->terms());
            foreach (\array_slice($listed->chosen->acted, 0, self::MOST) as $row) {
                $on[$row] = true;
            }
        }

        return array_keys($on);
    }

    /**
     * Groups hold sums, by what mainly speaks for their records.
     *
     * @param array<int, string>                                                          $sentences by number of record
     * @param array<array{records: int, answer: float, effects: array<array-key, float>}> $groups
     */
    private function keep(Scoring $scoring, array $sentences, array $groups): void
    {
        uasort($groups, static fn (array $a, array $b): int => $b['records'] <=> $a['records']);
        $scoring->explain([
            'sentences' => $sentences,
            'groups' => array_map(
                static fn (int|string $says, array $g): array => [
                    'says' => (string) $says,
                    'records' => $g['records'],
                    'answer' => $g['answer'] / $g['records'],
                    'effects' => array_map(static fn (float $sum): float => $sum / $g['records'], $g['effects']),
                ],
                array_keys($groups),
                array_values($groups),
            ),
            'looked' => array_sum(array_column($groups, 'records')),
        ]);
        $this->entities->flush();
    }

    /** @param non-empty-list<string> $columns */
    private static function said(Scoring $scoring, Table $record, array $columns, float $effect): string
    {
        $each = array_map(static fn (string $column): string => \sprintf(
            '%s %s',
            str_replace('_', ' ', $column),
            mb_strimwidth($record->column($column)->text(0) ?? 'missing', 0, 40, '…'),
        ), $columns);
        $size = Task::NUMBER === $scoring->task() ? \sprintf('%.3g', abs($effect)) : \sprintf('%.1f points', 100 * abs($effect));

        return \sprintf(
            '%s (%s%s)',
            implode(' and ', $each),
            $effect < 0 ? "\u{2212}" : '+',
            $size,
        );
    }

    /** A column with its value, or whether a number is high or low among records seen. */
    private static function mainly(Reasoning $reasoning, Table $record, string $column): string
    {
        $of = $record->column($column);
        $name = str_replace('_', ' ', $column);
        if ($of->isMissing(0)) {
            return $name.' missing';
        }
        if (!$of instanceof NumberColumn && !$of instanceof DateColumn) {
            return $name.' '.mb_strimwidth((string) $of->text(0), 0, 40, '…');
        }
        $seen = $reasoning->basis->seen->column($column);
        [$values, $own] = $of instanceof NumberColumn && $seen instanceof NumberColumn
            ? [$seen->values, $of->values[0]]
            : [$seen instanceof DateColumn ? $seen->seconds : [], $of instanceof DateColumn ? $of->seconds[0] : 0];
        $below = \count(array_filter($values, static fn (float|int $v): bool => $v < $own));
        $above = \count(array_filter($values, static fn (float|int $v): bool => $v > $own));
        $late = $of instanceof DateColumn;

        return $name.($below >= $above ? ($late ? ' late' : ' high') : ($late ? ' early' : ' low'));
    }
}
