<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\Shares;
use Dokimos\Core\Learn\ShowsCourse;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** A trained network. */
final readonly class NetworkModel implements TellsClasses, ShowsCourse, AsExpression
{
    private const PART = 2048;
    private const LEAST = 1e-15;

    /**
     * @param list<float>                                            $parameters
     * @param ?list<string>                                          $classes
     * @param float                                                  $mean       of a number, and
     * @param float                                                  $sd         what it is measured by
     * @param list<float>                                            $shifts     added to the log-odds of classes that were made to count
     *                                                                           more
     * @param list<array{round: int, training: float, held: ?float}> $epochs
     * @param list<string>                                           $notes
     */
    public function __construct(
        private Encoding $encoding,
        private Net $net,
        private bool $isRelu,
        private array $parameters,
        private ?array $classes,
        private float $mean,
        private float $sd,
        private array $shifts,
        private array $epochs,
        private int $best,
        private array $notes,
    ) {
    }

    public function classes(): array
    {
        return $this->classes ?? [];
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $shares = $this->shares($table, $rows);

        return $shares[\count($shares) - 1];
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        $out = array_fill(0, max(1, \count($this->classes ?? [])), []);
        $many = null === $rows ? $table->rows : \count($rows);
        for ($from = 0; $from < $many; $from += self::PART) {
            $part = null === $rows ? range($from, min($many, $from + self::PART) - 1) : \array_slice($rows, $from, self::PART);
            $outputs = $this->net->outputs($this->parameters, $this->encoding->of($table, $part));
            foreach (array_keys($part) as $i) {
                foreach ($this->answer(array_column($outputs, $i)) as $class => $p) {
                    $out[$class][] = $p;
                }
            }
        }

        return array_values($out);
    }

    /**
     * @param list<float> $outputs
     *
     * @return list<float>
     */
    private function answer(array $outputs): array
    {
        if (null === $this->classes) {
            return [$this->mean + $this->sd * $outputs[0]];
        }
        if (2 === \count($this->classes)) {
            $z = $outputs[0] + ($this->shifts[1] ?? 0.0) - ($this->shifts[0] ?? 0.0);
            $p = max(self::LEAST, min(1.0 - self::LEAST, 1.0 / (1.0 + exp(-max(-700.0, $z)))));

            return [1.0 - $p, $p];
        }
        $sums = array_map(fn (float $z, int $k): float => $z + ($this->shifts[$k] ?? 0.0), $outputs, array_keys($outputs));
        $most = max([-\INF, ...$sums]);
        $raised = array_map(static fn (float $z): float => max(self::LEAST, exp($z - $most)), $sums);
        $all = array_sum($raised);

        return array_map(static fn (float $e): float => $e / $all, $raised);
    }

    public function expressions(Frame $frame): array
    {
        $shape = $this->net->shape;
        $p = $this->parameters;
        $terms = $this->encoding->terms($frame, $p, $shape);
        $units = [];
        foreach (array_keys($shape->weightsAt) as $l) {
            if ($l > 0) {
                $terms = [];
                for ($j = 0; $j < $shape->sizes[$l + 1]; ++$j) {
                    $own = [];
                    foreach ($units as $i => $unit) {
                        $weight = $p[$shape->weightsAt[$l] + $i * $shape->sizes[$l + 1] + $j];
                        $own[] = Operation::of(Operator::Times, new Constant($weight), $unit);
                    }
                    $terms[] = $own;
                }
            }
            $isLast = !isset($shape->weightsAt[$l + 1]);
            $units = [];
            foreach ($terms as $j => $own) {
                $sum = Operation::sum([new Constant($p[$shape->biasesAt[$l] + $j]), ...$own]);
                $units[] = $isLast ? $sum : $this->bent($sum);
            }
        }

        return $this->answered($units);
    }

    private function bent(Expression $sum): Expression
    {
        if ($this->isRelu) {
            return Operation::of(Operator::Most, $sum, new Constant(0.0));
        }
        // tanh(x) is twice the chance of odds 2x, less 1.
        $chance = Operation::chance(Operation::of(Operator::Times, new Constant(2.0), $sum));

        return Operation::of(Operator::Add, Operation::of(Operator::Times, new Constant(2.0), $chance), new Constant(-1.0));
    }

    /**
     * @param list<Expression> $outputs
     *
     * @return non-empty-list<Expression>
     */
    private function answered(array $outputs): array
    {
        $first = $outputs[0] ?? new Constant(null);
        if (null === $this->classes) {
            return [
                Operation::of(Operator::Add, new Constant($this->mean), Operation::of(Operator::Times, new Constant($this->sd), $first)),
            ];
        }
        $shift = static fn (Expression $z, float $by): Expression => Operation::of(Operator::Add, $z, new Constant($by));
        if (2 === \count($this->classes)) {
            return [Operation::chance($shift($first, ($this->shifts[1] ?? 0.0) - ($this->shifts[0] ?? 0.0)))];
        }

        return Shares::of(
            array_map(fn (Expression $z, int $k): Expression => $shift($z, $this->shifts[$k] ?? 0.0), $outputs, array_keys($outputs)),
        );
    }

    public function columns(): array
    {
        return $this->encoding->names();
    }

    public function size(): string
    {
        return number_format(\count($this->parameters)).' weights';
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function course(): array
    {
        return $this->epochs;
    }

    public function courseOf(): string
    {
        return null === $this->classes ? 'half the squared error, in squared spreads of the outcome' : 'log loss';
    }

    public function courseBy(): string
    {
        return 'epoch';
    }

    public function toArray(): array
    {
        $shape = $this->net->shape;

        return [
            'learner' => 'neural-network',
            'encoding' => $this->encoding->toArray(),
            'hidden' => $shape->hidden,
            'outputs' => $shape->outputs,
            'relu' => $this->isRelu,
            'parameters' => base64_encode(pack('e*', ...$this->parameters)),
            'classes' => $this->classes,
            'mean' => $this->mean,
            'sd' => $this->sd,
            'shifts' => $this->shifts,
            'epochs' => $this->epochs,
            'best' => $this->best,
            'notes' => $this->notes,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     encoding: array<string, mixed>, hidden: list<int>, outputs: int, relu: bool, parameters: string,
         *     classes: ?list<string>, mean: float|int, sd: float|int, shifts: list<float|int>,
         *     epochs: list<array{round: int, training: float|int, held: float|int|null}>, best: int, notes: list<string>,
         * } $data
         */
        $encoding = Encoding::fromArray($data['encoding']);
        $kind = match (true) {
            null === $data['classes'] => Task::NUMBER,
            2 === \count($data['classes']) => Task::TWO,
            default => Task::MORE,
        };
        /** @var list<float> $parameters */
        $parameters = array_values(unpack('e*', (string) base64_decode($data['parameters'], true)) ?: []);

        return new self(
            $encoding,
            new Net(new Shape($encoding->direct(), $encoding->embeds(), $data['hidden'], $data['outputs']), $data['relu'], $kind),
            $data['relu'],
            $parameters,
            $data['classes'],
            (float) $data['mean'],
            (float) $data['sd'],
            array_map(floatval(...), $data['shifts']),
            array_map(static fn (array $e): array => [
                'round' => $e['round'], 'training' => (float) $e['training'], 'held' => null === $e['held'] ? null : (float) $e['held'],
            ], $data['epochs']),
            $data['best'],
            $data['notes'],
        );
    }
}
