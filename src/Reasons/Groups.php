<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Http\Problem;
use App\Score\ScoredTables;
use App\Score\Scoring;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Explain\Want;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/** Looks for the single change that would help most of the records of a list. */
final readonly class Groups
{
    private const MOST = 200;
    private const SHOWN = 12;

    public function __construct(private ScoredTables $scored, private Subjects $subjects)
    {
    }

    /** @throws Problem without a wish, and for columns that the model does not ask for */
    public function of(Scoring $scoring, GroupRequest $request): HelpsView
    {
        if (!$scoring->isDone()) {
            throw new Problem(409, 'The scoring is not finished.');
        }
        if (Task::MORE === $scoring->task()) {
            throw new Problem(409, 'A group is asked about where a study predicts an event or a number.');
        }
        if (null === $request->low && null === $request->high) {
            throw Problem::invalid('Say which answer is wanted: at least, at most, or both.', 'low');
        }
        $most = Task::TWO === $scoring->task() && $scoring->called() > 0 ? $scoring->called() : $scoring->scored();
        $rows = $this->scored->highestFirst($scoring, 0, min(self::MOST, $most));
        if ([] === $rows) {
            throw new Problem(409, 'No record of this list has an answer.');
        }
        [$reasoning, $group] = $this->subjects->group($scoring, $rows);
        $may = self::changeable($group);
        if ([] !== $strange = array_values(array_diff($request->fixed, $may))) {
            throw Problem::invalid(\sprintf('This model asks for no "%s" that a change could be made to.', $strange[0]), 'fixed');
        }
        $want = Want::between($request->low, $request->high);
        $before = $reasoning->model->answers($group);
        $changes = [];
        foreach (array_diff($may, $request->fixed) as $name) {
            foreach (self::some($reasoning->grid($name)) as $value) {
                $changes[] = self::change($reasoning, $group, $before, $want, $name, $value);
            }
        }
        usort(
            $changes,
            static fn (GroupChange $a, GroupChange $b): int => $b->reached - $b->lost <=> $a->reached - $a->lost
                ?: strcmp($a->column.$a->to, $b->column.$b->to),
        );

        return new HelpsView($group->rows, self::reaching($before, $want, $group->rows), $may, \array_slice($changes, 0, self::SHOWN));
    }

    /** @return list<string> columns of numbers, dates and words that repeat: a text or an identifier has no common change */
    private static function changeable(Table $group): array
    {
        return array_keys(array_filter(
            $group->columns(),
            static fn (Column $c): bool => !\in_array($c->kind(), [Kind::Text, Kind::Identifier], true),
        ));
    }

    /**
     * @param list<float|string> $grid
     *
     * @return list<float|string> at most ten of them
     */
    private static function some(array $grid): array
    {
        $n = \count($grid);

        return $n <= 10 ? $grid : array_map(static fn (int $k): float|string => $grid[(int) round($k * ($n - 1) / 9)], range(0, 9));
    }

    private static function reaching(Answers $answers, Want $want, int $rows): int
    {
        return \count(array_filter(range(0, $rows - 1), static fn (int $r): bool => 0.0 === $want->short($answers, $r)));
    }

    private static function change(
        Reasoning $reasoning,
        Table $group,
        Answers $before,
        Want $want,
        string $name,
        float|string $value,
    ): GroupChange {
        $one = Reasoning::changed($group->take([0]), [$name => $value])->column($name);
        $after = $reasoning->model->answers($group->with($name, $one->take(array_fill(0, $group->rows, 0))));
        $reached = $lost = 0;
        $sum = 0.0;
        for ($row = 0; $row < $group->rows; ++$row) {
            [$was, $is] = [0.0 === $want->short($before, $row), 0.0 === $want->short($after, $row)];
            $reached += $is && !$was ? 1 : 0;
            $lost += $was && !$is ? 1 : 0;
            $sum += $before->isKnown($row) && $after->isKnown($row) ? $after->first($row) - $before->first($row) : 0.0;
        }
        $column = $group->column($name);
        $to = match (true) {
            $column instanceof NumberColumn => NumberColumn::write((float) \sprintf('%.4g', (float) $value)),
            $column instanceof DateColumn => gmdate('Y-m-d', (int) round((float) $value * DateColumn::DAY)),
            default => (string) $value,
        };

        return new GroupChange($name, $to, $reached, $lost, $sum / $group->rows);
    }
}
