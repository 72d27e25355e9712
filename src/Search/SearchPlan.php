<?php

declare(strict_types=1);

namespace App\Search;

use App\Preparation\Variant;
use App\Trial\ChoiceRequest;
use Dokimos\Core\Search\Candidate;
use Dokimos\Core\Search\Draws;
use Dokimos\Core\Search\Space;
use Dokimos\Core\Validate\ColumnChoice;

/** What a search weighs, as it is kept: learners with their settings, preparations as they were, choices of columns, and the way through them. */
final readonly class SearchPlan
{
    /**
     * @param non-empty-list<array{learner: string, settings: array<string, mixed>}>                                             $spaces
     * @param non-empty-list<array{id: int, letter: string, steps: list<array<string, mixed>>, all: list<array<string, mixed>>}> $variants with their steps then
     * @param non-empty-list<array{names: list<string>, without: bool}|null>                                                     $choices
     * @param list<string>                                                                                                       $named    what each choice is called
     * @param list<string>                                                                                                       $inputs
     */
    private function __construct(
        public array $spaces,
        public array $variants,
        public array $choices,
        public array $named,
        public array $inputs,
        public string $way,
        public ?int $tries,
        public int $seed,
        public ?int $part,
    ) {
    }

    /**
     * @param non-empty-list<Variant> $variants
     * @param list<string>            $inputs
     */
    public static function of(SearchRequest $request, array $variants, array $inputs): self
    {
        $spaces = array_map(static fn (SpaceRequest $s): array => ['learner' => $s->learner, 'settings' => $s->settings], $request->spaces);
        $choices = array_map(static fn (ChoiceRequest $c): array => $c->choice()->toArray(), $request->choices);
        $named = array_map(
            static fn (ChoiceRequest $c): string => '' !== $c->name ? $c->name : ($c->without ? 'all but '.\count($c->names) : \count($c->names).' columns'),
            $request->choices,
        );
        if ($request->allColumns || [] === $choices) {
            array_unshift($choices, null);
            array_unshift($named, 'all columns');
        }
        \assert([] !== $spaces);
        $steps = static fn (Variant $v): array => array_values(array_filter(
            $v->steps(),
            static fn (array $s): bool => true !== ($s['off'] ?? false),
        ));

        return new self(
            $spaces, array_map(
                static fn (Variant $v): array => ['id' => $v->id(), 'letter' => $v->letter(), 'steps' => $steps($v), 'all' => $v->steps()],
                $variants,
            ),
            $choices, $named, $inputs, $request->way, $request->tries, $request->seed, $request->rows,
        );
    }

    /** @return non-empty-list<Space> */
    public function spaces(): array
    {
        return array_map(static fn (array $s): Space => Space::of($s['learner'], $s['settings']), $this->spaces);
    }

    /** @return list<Candidate> */
    public function candidates(): array
    {
        return Draws::of($this->way, $this->spaces(), \count($this->variants), \count($this->choices), $this->tries, $this->seed);
    }

    public function choice(int $place): ?ColumnChoice
    {
        $kept = $this->choices[$place] ?? null;

        return null === $kept ? null : ColumnChoice::fromArray($kept);
    }

    /** The same with more tries. */
    public function withTries(int $tries): self
    {
        return new self(
            $this->spaces,
            $this->variants,
            $this->choices,
            $this->named,
            $this->inputs,
            $this->way,
            $tries,
            $this->seed,
            $this->part,
        );
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return get_object_vars($this);
    }

    /** @param array<string, mixed> $kept */
    public static function fromArray(array $kept): self
    {
        /** @var array{spaces: non-empty-list<array{learner: string, settings: array<string, mixed>}>, variants: non-empty-list<array{id: int, letter: string, steps: list<array<string, mixed>>, all: list<array<string, mixed>>}>, choices: non-empty-list<array{names: list<string>, without: bool}|null>, named: list<string>, inputs: list<string>, way: string, tries: ?int, seed: int, part: ?int} $k */
        $k = $kept;

        return new self(
            $k['spaces'],
            $k['variants'],
            $k['choices'],
            $k['named'],
            $k['inputs'],
            $k['way'],
            $k['tries'],
            $k['seed'],
            $k['part'],
        );
    }
}
