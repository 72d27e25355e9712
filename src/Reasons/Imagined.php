<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Http\Problem;
use App\Judgment\Section\LeaningSection;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Explain\Follows;
use Dokimos\Core\Explain\Reached;
use Dokimos\Core\Explain\Want;
use Dokimos\Core\Formula\WrongFormula;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Stacked;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** Records with other cells: what is said of them, and which cells would have to be others for a wanted answer. */
final readonly class Imagined
{
    public function __construct(private Answering $answering)
    {
    }

    /** @param array<string, string|null> $changes */
    public function of(Subject $subject, array $changes): ImagineView
    {
        $changed = $this->changed($subject, $changes);
        $class = Answering::classOf($changed->reasoning, $this->answering->answer($changed));
        $lost = [];
        foreach (LeaningSection::of($subject->trial, $subject->reasoning->model)->columns ?? [] as $line) {
            $lost[$line->column] = $line->value;
        }
        $inputs = [];
        foreach ($subject->record->names() as $name) {
            $inputs[] = $this->input($subject, $changed, $name, $class, $lost[$name] ?? null);
        }
        usort($inputs, static fn (InputView $a, InputView $b): int => ($b->lost ?? -1.0) <=> ($a->lost ?? -1.0));

        return new ImagineView(
            $this->told($subject),
            $this->told($changed),
            null === $class ? null : $subject->reasoning->model->classes()[$class],
            $inputs,
        );
    }

    public function reach(Subject $subject, ReachRequest $request): ReachView
    {
        $begun = [] === $request->changes ? $subject : $this->changed($subject, $request->changes);
        $model = $subject->reasoning->model;
        $names = $subject->record->names();
        foreach ($request->free as $free) {
            if (!\in_array($free->column, $names, true)) {
                throw Problem::invalid(\sprintf('This model does not ask for "%s".', $free->column), 'free');
            }
        }
        $answers = $this->answering->answer($begun);
        if (!$answers->isKnown(0)) {
            throw new Problem(409, 'There is no answer for this record yet: fill its missing cells first.');
        }
        $want = match (true) {
            Task::MORE !== $model->task => null === $request->low && null === $request->high
                ? throw Problem::invalid('Say which answer is wanted: at least, at most, or both.', 'low')
                : Want::between($request->low, $request->high),
            $request->other => Want::anyBut($answers->likeliest(0)),
            default => Want::ofClass($this->place($model->classes(), $request->class)),
        };
        if (null !== $request->low && null !== $request->high && $request->low > $request->high) {
            throw Problem::invalid('The least that is wanted lies above the most.', 'low');
        }
        $follows = self::follows($request, $begun);
        $told = $subject->reasoning->reach(
            $begun->record,
            array_map(static fn (FreeRequest $f): \Dokimos\Core\Explain\Free => $f->free(), $request->free),
            $want,
            $request->likely,
            $follows,
        );
        $view = fn (Reached $r): ReachedView => $this->reached($begun, $r);

        return new ReachView(
            $this->told($begun),
            array_map($view, $told['found']),
            null === $told['nearest'] ? null : $view($told['nearest']),
            $told['tried'],
        );
    }

    private static function follows(ReachRequest $request, Subject $begun): ?Follows
    {
        $formulas = [];
        foreach ($request->follows as $one) {
            $formulas[$one->column] = $one->formula;
        }
        try {
            $follows = [] === $formulas ? null : Follows::of(
                $formulas,
                $begun->record,
                array_map(static fn (FreeRequest $f): string => $f->column, $request->free),
            );
            // Of another kind than its column is said before anything is tried.
            $follows?->apply($begun->record);

            return $follows;
        } catch (WrongFormula $e) {
            throw Problem::invalid($e->getMessage(), 'follows');
        }
    }

    /** @param list<string> $classes */
    private function place(array $classes, ?string $class): int
    {
        $place = array_search($class, $classes, true);

        return false === $place ? throw Problem::invalid(
            null === $class ? 'Say which class is wanted.' : \sprintf('“%s” is none of the classes.', $class),
            'class',
        ) : $place;
    }

    private function reached(Subject $begun, Reached $reached): ReachedView
    {
        $all = $reached->changes + $reached->followed;
        $subject = $begun->with(Reasoning::changed($begun->record, $all));
        $changes = [];
        foreach (array_keys($all) as $column) {
            $column = (string) $column;
            $changes[] = new ChangeView(
                $column,
                $begun->record->column($column)->text(0),
                (string) $subject->record->column($column)->text(0),
                \array_key_exists($column, $reached->followed),
            );
        }

        return new ReachedView($changes, $this->told($subject), $reached->short, $reached->cost);
    }

    /** @param array<string, string|null> $changes */
    public function changed(Subject $subject, array $changes): Subject
    {
        $cells = [];
        foreach ($changes as $name => $text) {
            $name = (string) $name;
            if (!$subject->record->has($name)) {
                throw Problem::invalid(\sprintf('This model does not ask for "%s".', $name), 'changes');
            }
            $cells[$name] = self::read($subject->record->column($name), $name, $text);
        }

        return [] === $cells ? $subject : $subject->with(Reasoning::changed($subject->record, $cells));
    }

    private static function read(Column $column, string $name, ?string $text): float|string|null
    {
        $text = null === $text || '' === trim($text) ? null : trim($text);
        if (null === $text) {
            return null;
        }
        if ($column instanceof NumberColumn) {
            return is_numeric($text) && is_finite((float) $text) ? (float) $text : throw Problem::invalid(
                \sprintf('"%s" is no number, as %s has.', $text, $name),
                'changes',
            );
        }
        if ($column instanceof DateColumn) {
            $day = \DateTimeImmutable::createFromFormat('!Y-m-d', substr($text, 0, 10), new \DateTimeZone('UTC'));

            return false === $day ? throw Problem::invalid(
                \sprintf('"%s" is no date like 2026-03-31, as %s has.', $text, $name),
                'changes',
            ) : $day->getTimestamp() / DateColumn::DAY;
        }

        return mb_substr($text, 0, 4000);
    }

    public function told(Subject $subject): AnswerView
    {
        $line = $subject->reasoning->model->score($subject->record, false)[0];
        $answers = $this->answering->answer($subject);
        $classes = $subject->reasoning->model->classes();

        return new AnswerView(
            $line['number'] ?? (isset($line['class']) ? max([0.0, ...$line['shares'] ?? []]) : $line['chance']),
            $line['class'] ?? null,
            [] === ($line['shares'] ?? []) ? [] : array_map(
                static fn (string $n, float $s): ClassShareView => new ClassShareView($n, $s),
                $classes,
                $line['shares'],
            ),
            $line['why'],
            $this->answering->sure($subject, $answers),
            $this->answering->likeness($subject),
        );
    }

    private function input(Subject $subject, Subject $changed, string $name, ?int $class, ?float $lost): InputView
    {
        $reasoning = $subject->reasoning;
        $grid = $reasoning->grid($name);
        $column = $subject->record->column($name);
        $isLine = $column instanceof NumberColumn || $column instanceof DateColumn;
        foreach ($isLine ? [] : [$subject->record, $changed->record] as $record) {
            $own = $record->column($name)->text(0);
            if ([] !== $grid && null !== $own && !\in_array($own, $grid, true)) {
                $grid[] = $own;
            }
        }
        [$then, $now] = [] === $grid ? [[], []] : $reasoning->curves(self::both($subject->record, $changed->record), $name, $grid, $class);
        $known = static fn (float $v): ?float => is_nan($v) ? null : $v;
        $numbers = array_values(array_filter($grid, is_float(...)));

        return new InputView(
            $name,
            $column->kind()->value,
            $changed->record->column($name)->text(0),
            $column->text(0),
            $isLine ? [] : array_map(strval(...), $grid),
            $numbers,
            array_map($known, $now),
            array_map($known, $then),
            $lost,
            [] === array_filter($numbers, static fn (float $v): bool => floor($v) !== $v),
        );
    }

    private static function both(Table $one, Table $other): Table
    {
        return Stacked::of($one, $other);
    }
}
