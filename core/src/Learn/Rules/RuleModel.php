<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Rules;

use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\GivesPaths;
use Dokimos\Core\Learn\ShownRule;
use Dokimos\Core\Learn\ShowsRules;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learn\Tree\Part;
use Dokimos\Core\Table\Table;

/** Rules in order: the first that a record meets answers, the last is for every other record. */
final readonly class RuleModel implements CanBeRead, TellsClasses, ShowsRules, GivesPaths, AsExpression
{
    /** Rows mixed as all are that are added to each rule, as to the leaves of a tree. */
    private const ADDED = 20.0;

    /**
     * @param non-empty-list<Rule> $rules
     * @param list<string>         $classes
     * @param list<string>         $notes
     */
    public function __construct(public array $rules, private array $classes, private array $notes)
    {
    }

    public function classes(): array
    {
        return $this->classes;
    }

    /**
     * What a rule answers: an m-estimate, as docs/methods/tree.md says of leaves.
     *
     * @return list<list<float>> per rule, one chance per class
     */
    public function values(): array
    {
        $all = array_fill(0, \count($this->classes), 1.0);
        foreach ($this->rules as $rule) {
            foreach ($rule->counts as $k => $c) {
                $all[$k] += $c;
            }
        }
        $sum = array_sum($all);

        return array_map(
            static fn (Rule $rule): array => array_map(
                static fn (float $c, float $a): float => ($c + self::ADDED * $a / $sum) / (array_sum($rule->counts) + self::ADDED),
                $rule->counts,
                $all,
            ),
            $this->rules,
        );
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $shares = $this->shares($table, $rows);

        return $shares[\count($shares) - 1];
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        $values = $this->values();
        $out = array_fill(0, \count($this->classes), []);
        foreach ($this->first($table, $rows) as $rule) {
            foreach ($values[$rule] as $k => $p) {
                $out[$k][] = $p;
            }
        }

        return $out;
    }

    /**
     * The rule that answers for each row.
     *
     * @param ?list<int> $rows all rows when null
     *
     * @return list<int>
     */
    public function first(Table $table, ?array $rows = null): array
    {
        $rows ??= $table->rows > 0 ? range(0, $table->rows - 1) : [];
        $left = array_keys(array_flip($rows));
        $by = [];
        foreach ($this->rules as $i => $rule) {
            $met = self::met($table, $rule, $left);
            foreach ($met as $row) {
                $by[$row] = $i;
            }
            $left = array_values(array_diff_key(array_combine($left, $left), array_flip($met)));
        }

        return array_map(static fn (int $row): int => $by[$row], $rows);
    }

    /**
     * @param list<int> $rows
     *
     * @return list<int> of these rows, those that meet every part of the rule
     */
    public static function met(Table $table, Rule $rule, array $rows): array
    {
        foreach ($rule->path as $name => $part) {
            $rows = [] === $rows ? [] : $part->met($table->column((string) $name), $rows);
        }

        return $rows;
    }

    public function expressions(Frame $frame): array
    {
        $values = $this->values();
        $classes = array_keys($this->classes);
        $out = [];
        foreach (2 === \count($classes) ? [1] : $classes as $class) {
            $so = null;
            foreach (array_reverse($this->rules, true) as $i => $rule) {
                $parts = [];
                foreach ($rule->path as $name => $part) {
                    $parts[] = $part->expression($frame->column((string) $name));
                }
                $own = new Constant($values[$i][$class]);
                $holds = 1 === \count($parts) ? $parts[0] : ([] === $parts ? null : new Operation(Operator::And, $parts));
                $so = null === $so || null === $holds ? $own : new When($holds, $own, $so);
            }
            $out[] = $so;
        }

        return [] === $out ? throw new \LogicException('There are no classes.') : $out;
    }

    public function columns(): array
    {
        $used = [];
        foreach ($this->rules as $rule) {
            $used += $rule->path;
        }

        return array_map(strval(...), array_keys($used));
    }

    public function reading(): int
    {
        return \count($this->rules) - 1;
    }

    public function size(): string
    {
        $rules = $this->reading();

        return 1 === $rules ? '1 rule' : number_format($rules).' rules';
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function toArray(): array
    {
        return [
            'learner' => 'rules',
            'classes' => $this->classes,
            'rules' => array_map(static fn (Rule $r) => $r->toArray(), $this->rules),
            'notes' => $this->notes,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{classes: list<string>, rules: non-empty-list<array<string, mixed>>, notes: list<string>} $data */
        return new self(array_map(Rule::fromArray(...), $data['rules']), $data['classes'], $data['notes']);
    }

    public function shownRules(): array
    {
        $values = $this->values();
        $all = array_fill(0, \count($this->classes), 0.0);
        foreach ($this->rules as $rule) {
            foreach ($rule->counts as $k => $c) {
                $all[$k] += $c;
            }
        }
        $shown = [];
        foreach ($this->rules as $i => $rule) {
            $grown = array_sum($rule->counts);
            // Of several classes a rule is found for the one it raises most, and answers with the likeliest: that is what it says.
            $class = \count($this->classes) > 2 ? (int) array_search(max([0.0, ...$values[$i]]), $values[$i], true) : $rule->class;
            $judged = array_sum($rule->judged);
            $shown[] = new ShownRule(
                $rule->sentence(),
                $this->classes[$class],
                $judged,
                $judged > 0.0 ? $rule->judged[$class] : 0.0,
                $grown,
                $grown > 0.0 ? $rule->counts[$class] / $grown : 0.0,
                $values[$i][$class],
                $all[$class] / max(1.0, array_sum($all)),
                Part::condition($rule->path),
            );
        }

        return $shown;
    }

    public function sentences(Table $prepared): array
    {
        return array_map(fn (int $rule): string => $this->rules[$rule]->sentence(), $this->first($prepared));
    }
}
