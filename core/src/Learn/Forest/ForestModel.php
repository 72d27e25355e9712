<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Forest;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Learn\GivesReport;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Learn\Scale;
use Dokimos\Core\Learn\ShowsCourse;
use Dokimos\Core\Learn\ShowsImportance;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learn\Tree\AddsTrees;
use Dokimos\Core\Learn\Tree\Grove;
use Dokimos\Core\Learn\Tree\OpenTree;
use Dokimos\Core\Learn\Tree\SumOfTrees;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** Many trees; the answer is the mean of theirs. */
final readonly class ForestModel implements AddsTrees, TellsClasses, ShowsImportance, ShowsCourse, GivesReport, AsExpression
{
    /**
     * @param ?list<string>                              $classes    null for a number
     * @param list<array{column: string, share: float}>  $importance of all that impurity fell by, the share of each column; largest first
     * @param list<array{trees: int, out_of_bag: float}> $curve      squared error on rows that a tree had not seen, by number of trees
     * @param list<string>                               $notes
     * @param ?list<float>                               $factors    how much more than it occurs each class counted among the rows; null =
     *                                                               as it occurs
     */
    public function __construct(
        private Codes $codes,
        private Grove $grove,
        private ?array $classes,
        public array $importance,
        public array $curve,
        private array $notes,
        private ?array $factors = null,
    ) {
    }

    public function classes(): array
    {
        return $this->classes ?? [];
    }

    public function trees(): int
    {
        return \count($this->grove->roots) - 1;
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        if (null === $this->factors) {
            return $this->mean($table, $rows, $this->grove->width - 1);
        }
        $shares = $this->shares($table, $rows);

        return $shares[\count($shares) - 1];
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        if (1 === $this->grove->width) {
            $events = $this->mean($table, $rows, 0);
            $shares = [array_map(static fn (float $p) => 1.0 - $p, $events), $events];
        } else {
            $shares = array_map(fn (int $class): array => $this->mean($table, $rows, $class), array_keys($this->classes ?? []));
        }

        return null === $this->factors ? $shares : self::broughtBack($shares, $this->factors);
    }

    /**
     * @param list<list<float>> $shares  per class
     * @param list<float>       $factors
     *
     * @return list<list<float>>
     */
    private static function broughtBack(array $shares, array $factors): array
    {
        $out = array_fill(0, \count($shares), []);
        foreach ($shares[0] ?? [] as $i => $_) {
            $own = [];
            foreach ($factors as $k => $f) {
                $own[] = $shares[$k][$i] / $f;
            }
            $all = array_sum($own);
            foreach ($own as $k => $p) {
                $out[$k][] = $p / $all;
            }
        }

        return array_values($out);
    }

    /**
     * @param ?list<int> $rows
     *
     * @return list<float>
     */
    private function mean(Table $table, ?array $rows, int $class): array
    {
        $out = [];
        $trees = max(1, \count($this->grove->roots));
        foreach ($this->codes->parts($table, $rows, $this->grove->features()) as $codes) {
            foreach ($this->grove->add($codes, array_values(array_fill(0, $codes->rows, 0.0)), $class) as $sum) {
                $out[] = $sum / $trees;
            }
        }

        return $out;
    }

    public function sum(?int $class, int $most): ?SumOfTrees
    {
        $of = $class ?? $this->grove->width - 1;
        // Classes brought back to how often they occur are no mean of trees any more.
        if (null !== $this->factors || $of >= $this->grove->width || $this->grove->leaves() > $most) {
            return null;
        }

        return new SumOfTrees($this->grove->open($this->codes, $of, 1.0 / max(1, \count($this->grove->roots))), 0.0, Scale::AsItIs);
    }

    public function columns(): array
    {
        return array_map(fn (int $f): string => $this->codes->columns[$f], $this->grove->features());
    }

    public function size(): string
    {
        return number_format($this->trees()).(1 === $this->trees() ? ' tree' : ' trees');
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function report(Task $task, Reported $wanted): array
    {
        return ['trees' => $this->trees(), 'importance' => $this->importance, 'curve' => $this->curve];
    }

    public function toArray(): array
    {
        return [
            'learner' => 'forest',
            'classes' => $this->classes,
            'codes' => $this->codes->toArray(),
            'grove' => $this->grove->toArray(),
            'importance' => $this->importance,
            'curve' => $this->curve,
            'notes' => $this->notes,
            'factors' => $this->factors,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{classes: ?list<string>, codes: array{columns: list<string>, scales: list<array{cuts?: list<float|int>, levels?: list<string>, other?: bool}>, left_out: array<array-key, string>}, grove: array<string, mixed>, importance: list<array{column: string, share: float}>, curve: list<array{trees: int, out_of_bag: float}>, notes: list<string>, factors?: ?list<float|int>} $data */
        return new self(
            Codes::fromArray($data['codes']),
            Grove::fromArray($data['grove']),
            $data['classes'],
            $data['importance'],
            $data['curve'],
            $data['notes'],
            isset($data['factors']) ? array_map(floatval(...), $data['factors']) : null,
        );
    }

    public function importance(): array
    {
        return $this->importance;
    }

    public function course(): array
    {
        return array_map(
            static fn (array $c): array => ['round' => $c['trees'], 'training' => null, 'held' => $c['out_of_bag']],
            $this->curve,
        );
    }

    public function courseBy(): string
    {
        return 'tree';
    }

    public function courseOf(): string
    {
        return ([] === $this->classes() ? 'Mean squared error' : 'Brier score').' of rows that a tree was not grown on';
    }

    public function expressions(Frame $frame): array
    {
        $several = $this->grove->width > 1;
        $times = 1.0 / max(1, \count($this->grove->roots));
        $means = [];
        for ($class = 0; $class < $this->grove->width; ++$class) {
            $means[] = OpenTree::written($this->grove->open($this->codes, $class, $times), 0.0, $frame);
        }
        if (null === $this->factors) {
            return $several && \count($means) > 2 ? $means : [$means[\count($means) - 1]];
        }
        // Classes brought back to how often they occur.
        $shares = $several ? $means : [Operation::of(Operator::Less, new Constant(1.0), $means[0]), $means[0]];
        $own = array_map(
            static fn (Expression $s, float $f): Operation => Operation::of(Operator::Over, $s, new Constant($f)),
            $shares,
            $this->factors,
        );
        $back = array_map(static fn (Operation $o): Operation => Operation::of(Operator::Over, $o, Operation::sum($own)), $own);

        return \count($back) > 2 ? $back : [$back[\count($back) - 1]];
    }
}
