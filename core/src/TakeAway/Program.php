<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Decide\Mixes;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\Renamed;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Task;

/**
 * A model with its preparation, written out: from the columns of a record, layer by layer, to its answer. SQL, ONNX and JSON are printed
 * from
 * it. Definition: docs/methods/take-away.md.
 */
final readonly class Program implements \JsonSerializable
{
    public const SCHEMA = 'dokimos-program/1';

    /**
     * @param array<array-key, Kind>          $inputs  columns of the record
     * @param list<array<string, Expression>> $layers  each from the record and from layers before it
     * @param array<string, Named>            $answers what is answered, by what it is called
     * @param list<string>                    $classes of several
     */
    private function __construct(
        public array $inputs,
        public array $layers,
        public array $answers,
        public string $task,
        public array $classes,
        public string $target,
    ) {
    }

    /** @throws CannotExpress with every reason why it cannot be taken away */
    public static function of(ScoringModel $scoring): self
    {
        $cannot = self::cannot($scoring);
        if ([] !== $cannot) {
            throw new CannotExpress(implode(' ', $cannot));
        }
        [$layers, $answers] = self::worked($scoring);
        $classes = $scoring->classes();
        $names = match ($scoring->task) {
            Task::TWO => ['chance'],
            Task::MORE => array_map(static fn (int $k): string => 'chance_'.($k + 1), array_keys($classes)),
            default => ['predicted'],
        };

        return new self(
            $scoring->asked,
            self::needed($layers, $answers),
            array_combine($names, $answers),
            $scoring->task,
            $classes,
            $scoring->target,
        );
    }

    /**
     * @return array{list<array<string, Expression>>, non-empty-list<Named>} all layers, and the answers
     *
     * @throws CannotExpress
     */
    private static function worked(ScoringModel $scoring): array
    {
        $frame = self::prepared($scoring);
        $layers = [];
        foreach ($frame->layers as $i => $layer) {
            $layers = [...$layers, ...self::hoisted($layer, 'p'.($i + 1))];
        }
        $model = $scoring->model;
        if ($model instanceof Mixes) {
            [$own, $answers] = self::mixed($model);
            $layers = [...$layers, ...$own];
        } else {
            $answers = $model instanceof AsExpression ? $model->expressions($frame) : [new Constant(null)];
        }
        if ([] !== $frame->out) {
            $out = 1 === \count($frame->out) ? $frame->out[0] : new Operation(Operator::Or, $frame->out);
            $answers = array_map(static fn (Expression $a): When => new When($out, new Constant(null), $a), $answers);
        }
        [$layers, $answers] = self::named($layers, $answers, 'a');
        if (null !== $scoring->back) {
            [$layers, $answers] = self::named($layers, $scoring->back->expressions($answers), 'b');
        }
        if (null !== $scoring->calibrated) {
            [$layers, $answers] = self::named($layers, $scoring->calibrated->expressions($answers), 'c');
        }

        return [$layers, $answers];
    }

    /** The columns as the model reads them, and what they are worked out from. */
    public static function prepared(ScoringModel $scoring): Frame
    {
        $frame = self::spelled(Frame::ofRecord($scoring->asked), $scoring);
        foreach ($scoring->preparation->steps as $step) {
            if ($step instanceof AsFrame) {
                $frame = $step->frame($frame);
            }
        }

        return $frame;
    }

    /**
     * @param array<string, Expression> $layer
     *
     * @return list<array<string, Expression>> what it stands on, and itself
     */
    private static function hoisted(array $layer, string $prefix): array
    {
        if ([] === $layer) {
            return [];
        }
        [$before, $own] = Hoist::of(array_values($layer), $prefix);

        return [...$before, array_combine(array_keys($layer), $own)];
    }

    /**
     * Several models side by side, under names of their own, and what they answer together.
     *
     * @return array{list<array<string, Expression>>, non-empty-list<Expression>}
     *
     * @throws CannotExpress
     */
    private static function mixed(Mixes $blend): array
    {
        $layers = $answers = [];
        foreach ($blend->models() as $m => $model) {
            [$own, $said] = self::worked($model);
            $inputs = array_map(strval(...), array_keys($model->asked));
            $name = static fn (string $of): string => \in_array($of, $inputs, true) ? $of : 'm'.($m + 1).'_'.$of;
            foreach ($own as $i => $layer) {
                foreach ($layer as $of => $expression) {
                    $layers[$i][$name($of)] = Renamed::of($expression, $name);
                }
            }
            $answers[] = array_map(static fn (Named $n): Named => new Named($name($n->name), false), $said);
        }
        ksort($layers);
        [$more, $out] = $blend->mixing()->expressions($answers);
        $own = array_fill_keys(array_merge(...array_map(array_keys(...), $more)), true);
        $name = static fn (string $of): string => isset($own[$of]) ? 'mix_'.$of : $of;
        foreach ($more as $i => $layer) {
            $renamed = [];
            foreach ($layer as $of => $expression) {
                $renamed[$name($of)] = Renamed::of($expression, $name);
            }
            array_push($layers, ...self::hoisted($renamed, 'o'.($i + 1)));
        }

        return [array_values($layers), array_map(static fn (Expression $e): Expression => Renamed::of($e, $name), $out)];
    }

    /** @return list<string> a sentence for each step, and for the model, that cannot be written out; [] = it can be taken away */
    public static function cannot(ScoringModel $scoring): array
    {
        $out = [];
        $frame = self::spelled(Frame::ofRecord($scoring->asked), $scoring);
        foreach ($scoring->preparation->steps as $step) {
            try {
                $frame = $step instanceof AsFrame ? $step->frame($frame) : throw new CannotExpress(
                    'A step is not written out yet: '.$step->sentence(),
                );
            } catch (CannotExpress $e) {
                $out[] = $e->getMessage();
            }
        }
        if ($scoring->model instanceof Mixes) {
            foreach ($scoring->model->models() as $member) {
                array_push($out, ...self::cannot($member));
            }
        } elseif (!$scoring->model instanceof AsExpression) {
            $out[] = 'A model of this kind answers by what no formula holds; ask it over its service instead.';
        } elseif ([] === $out) {
            try {
                $scoring->model->expressions($frame);
            } catch (CannotExpress $e) {
                $out[] = $e->getMessage();
            }
        }

        return array_values(array_unique($out));
    }

    /** Yes and no in every usual spelling are read as training had them. */
    private static function spelled(Frame $frame, ScoringModel $scoring): Frame
    {
        $made = [];
        foreach ($scoring->asked as $name => $kind) {
            $known = $scoring->came[$name] ?? [];
            if (Kind::YesNo !== $kind || [] === $known) {
                continue;
            }
            $as = [];
            foreach ($known as $level) {
                $means = CellParser::yesNo($level);
                foreach (null === $means ? [] : array_keys(CellParser::spellings(), $means, true) as $written) {
                    foreach ([$written, ucfirst((string) $written), strtoupper((string) $written)] as $spelling) {
                        $as[$spelling] = $level;
                    }
                }
            }
            $made[$name] = [$kind, new Lookup($frame->column((string) $name), $as + array_combine($known, $known), null)];
        }

        return $frame->with($made);
    }

    /**
     * @param list<array<string, Expression>> $layers
     * @param non-empty-list<Expression>      $answers
     *
     * @return array{list<array<string, Expression>>, non-empty-list<Named>}
     */
    private static function named(array $layers, array $answers, string $prefix): array
    {
        [$before, $answers] = Hoist::of($answers, $prefix);
        $layer = $names = [];
        foreach ($answers as $k => $answer) {
            $layer[$prefix.($k + 1)] = $answer;
            $names[] = new Named($prefix.($k + 1), false);
        }

        return [[...$layers, ...$before, $layer], $names];
    }

    /**
     * What no answer rests on is left out.
     *
     * @param list<array<string, Expression>> $layers
     * @param list<Named>                     $answers
     *
     * @return list<array<string, Expression>>
     */
    private static function needed(array $layers, array $answers): array
    {
        $wanted = array_fill_keys(array_map(static fn (Named $n): string => $n->name, $answers), true);
        $out = [];
        foreach (array_reverse($layers) as $layer) {
            $own = array_intersect_key($layer, $wanted);
            foreach ($own as $expression) {
                self::collect($expression, $wanted);
            }
            if ([] !== $own) {
                array_unshift($out, $own);
            }
        }

        return $out;
    }

    /** @param array<string, true> $names */
    private static function collect(Expression $expression, array &$names): void
    {
        if ($expression instanceof Named) {
            $names[$expression->name] = true;
        }
        foreach ($expression->parts() as $part) {
            self::collect($part, $names);
        }
    }

    /** @return array<string, mixed> docs/schemas/program-1.json */
    public function jsonSerialize(): array
    {
        return [
            'schema' => self::SCHEMA,
            'target' => $this->target,
            'task' => $this->task,
            'classes' => $this->classes,
            'inputs' => array_map(
                static fn (int|string $name, Kind $kind): array => ['name' => (string) $name, 'kind' => $kind->value],
                array_keys($this->inputs),
                $this->inputs,
            ),
            'layers' => array_map(static fn (array $l): array => array_map(
                static fn (string $name, Expression $e): array => ['name' => $name, 'is' => $e],
                array_keys($l),
                $l,
            ), $this->layers),
            'answers' => array_map(static fn (Named $n): string => $n->name, $this->answers),
        ];
    }
}
