<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\Shares;
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

/** Small trees that add up, each mending what those before it left. */
final readonly class BoostedModel implements AddsTrees, TellsClasses, ShowsImportance, ShowsCourse, GivesReport, AsExpression
{
    /**
     * @param list<float>                                                  $starts     the sum before the first tree; one per class of
     *                                                                                 several
     * @param ?list<string>                                                $classes    null for a number
     * @param list<array{column: string, share: float}>                    $importance of all that the loss fell by, the share of each
     *                                                                                 column; largest first
     * @param list<array{trees: int, training: float, validation: ?float}> $curve      mean loss by rounds
     * @param list<string>                                                 $notes
     */
    public function __construct(
        private Codes $codes,
        private Grove $grove,
        private Loss $loss,
        private array $starts,
        private ?array $classes,
        public array $importance,
        public array $curve,
        private array $notes,
    ) {
    }

    public function classes(): array
    {
        return $this->classes ?? [];
    }

    /** Rounds; of several classes each has one tree a round. */
    public function trees(): int
    {
        return intdiv(\count($this->grove->roots), \count($this->starts));
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $out = [];
        foreach ($this->parts($table, $rows) as $sums) {
            if (Loss::Several === $this->loss) {
                $shares = Loss::shares($sums);
                array_push($out, ...$shares[\count($shares) - 1]);
                continue;
            }
            foreach ($sums[0] as $sum) {
                $out[] = $this->loss->answer($sum);
            }
        }

        return $out;
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        if (Loss::Several !== $this->loss) {
            $events = $this->predict($table, $rows);

            return [array_map(static fn (float $p) => 1.0 - $p, $events), $events];
        }
        $out = array_fill(0, \count($this->starts), []);
        foreach ($this->parts($table, $rows) as $sums) {
            foreach (Loss::shares($sums) as $class => $shares) {
                array_push($out[$class], ...$shares);
            }
        }

        return $out;
    }

    /**
     * @param ?list<int> $rows
     *
     * @return iterable<list<list<float>>> sums per class of some rows
     */
    private function parts(Table $table, ?array $rows): iterable
    {
        $each = \count($this->starts);
        foreach ($this->codes->parts($table, $rows, $this->grove->features()) as $codes) {
            $sums = [];
            foreach ($this->starts as $class => $start) {
                $sums[] = $this->grove->add($codes, array_values(array_fill(0, $codes->rows, $start)), 0, $class, null, $each);
            }
            yield $sums;
        }
    }

    public function sum(?int $class, int $most): ?SumOfTrees
    {
        // Of several classes the chances are no sums on any scale.
        if (Loss::Several === $this->loss || $this->grove->leaves() > $most) {
            return null;
        }
        $scale = match ($this->loss) {
            Loss::Log => Scale::LogOdds,
            Loss::Poisson => Scale::Logarithm,
            default => Scale::AsItIs,
        };

        return new SumOfTrees($this->grove->open($this->codes, 0, 1.0), $this->starts[0], $scale);
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
            'learner' => 'boosting',
            'classes' => $this->classes,
            'loss' => $this->loss->value,
            'starts' => $this->starts,
            'codes' => $this->codes->toArray(),
            'grove' => $this->grove->toArray(),
            'importance' => $this->importance,
            'curve' => $this->curve,
            'notes' => $this->notes,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{classes: ?list<string>, loss: string, starts: list<float|int>, codes: array{columns: list<string>, scales: list<array{cuts?: list<float|int>, levels?: list<string>, other?: bool}>, left_out: array<array-key, string>}, grove: array<string, mixed>, importance: list<array{column: string, share: float}>, curve: list<array{trees: int, training: float, validation: ?float}>, notes: list<string>} $data */
        return new self(
            Codes::fromArray($data['codes']),
            Grove::fromArray($data['grove']),
            Loss::from($data['loss']),
            array_map(floatval(...), $data['starts']),
            $data['classes'],
            $data['importance'],
            $data['curve'],
            $data['notes'],
        );
    }

    public function importance(): array
    {
        return $this->importance;
    }

    public function course(): array
    {
        return array_map(
            static fn (array $c): array => ['round' => $c['trees'], 'training' => $c['training'], 'held' => $c['validation']],
            $this->curve,
        );
    }

    public function courseBy(): string
    {
        return 'tree';
    }

    public function courseOf(): string
    {
        return [] === $this->classes() ? 'mean loss' : 'log loss';
    }

    public function expressions(Frame $frame): array
    {
        $trees = $this->grove->open($this->codes, 0, 1.0);
        $each = \count($this->starts);
        $sums = [];
        foreach ($this->starts as $class => $start) {
            $own = array_values(array_filter($trees, static fn (int $t): bool => $t % $each === $class, \ARRAY_FILTER_USE_KEY));
            $sums[] = OpenTree::written($own, $start, $frame);
        }

        return match ($this->loss) {
            Loss::Several => Shares::of($sums),
            Loss::Log => [Operation::chance($sums[0])],
            Loss::Poisson => [Operation::of(Operator::Exp, Operation::of(Operator::Least, $sums[0], new Constant(50.0)))],
            default => [$sums[0]],
        };
    }
}
