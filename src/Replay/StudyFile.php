<?php

declare(strict_types=1);

namespace App\Replay;

use App\Approval\Approval;
use App\Combine\KeptCombination;
use App\Decision\Decision;
use App\Decision\Weighing;
use App\Preparation\Variant;
use App\Question\Questions;
use App\Score\Scoring;
use App\Search\Course;
use App\Search\Search;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Trial\Ancestry;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;

/** A study as one file: what it is made of and what was found, so that it can be done again elsewhere. docs/schemas/study-1.json */
final readonly class StudyFile
{
    public const SCHEMA = 'dokimos-study/1';

    public function __construct(private EntityManagerInterface $entities, private Questions $questions, private Weighing $weighing)
    {
    }

    /** @return array<string, mixed> */
    public function of(Study $study): array
    {
        $question = $this->questions->of($study);
        $plan = $question->plan();
        $tables = $this->entities->getRepository(DataTable::class)->findBy(
            ['study' => $study, 'state' => DataTable::READY],
            ['id' => 'ASC'],
        );
        $made = [];
        foreach ($tables as $table) {
            $kept = $this->entities->find(KeptCombination::class, $table->id());
            if (null !== $kept) {
                $made[$table->id()] = [
                    'source' => $kept->source()->name(),
                    'other' => $kept->other()?->name(),
                    'combination' => $kept->combination()->toArray(),
                ];
            }
        }
        $scorings = array_values(array_filter(
            $this->entities->getRepository(Scoring::class)->findBy(['study' => $study], ['id' => 'ASC']),
            static fn (Scoring $s): bool => $s->isDone() && !$s->isByHanded(),
        ));
        $decisions = $this->entities->createQuery(
            'SELECT d FROM App\Decision\Decision d JOIN d.scoring s WHERE s.study = :study ORDER BY d.id',
        )
            ->setParameter('study', $study->id())->getResult();

        return [
            'schema' => self::SCHEMA,
            'name' => $study->name(),
            'question' => $study->question(),
            'sources' => array_map(static fn (DataTable $t): array => [
                'name' => $t->name(),
                'file' => $t->fileName(),
                'rows' => $t->rows(),
                'fingerprint' => $t->fingerprint(),
                'made' => $made[$t->id()] ?? null,
                'columns' => array_map(static fn (TableColumn $c): array => [
                    'name' => $c->name(), 'kind' => $c->kind()->value, 'use' => $c->use()->value, 'known' => $c->isKnown(),
                ], $t->columns()),
            ], $tables),
            'target' => null === $question->target() ? null : [
                'table' => $question->table()?->name(),
                'column' => $question->target(),
                'event' => $question->event(),
                'task' => $question->task(),
                'figure' => $question->figure()->key,
                'fingerprint' => $question->hash(),
            ],
            'split' => $plan?->toArray(),
            'variants' => array_map(static fn (Variant $v): array => [
                'letter' => $v->letter(), 'name' => $v->name(), 'steps' => $v->steps(),
            ], $this->entities->getRepository(Variant::class)->findBy(['study' => $study], ['letter' => 'ASC'])),
            'trials' => array_map($this->trial(...), $this->entities->getRepository(Trial::class)->findBy(
                ['question' => $question, 'state' => Trial::DONE],
                ['number' => 'ASC'],
            )),
            'searches' => array_map(
                fn (Search $s): array => [
                    'number' => $s->number(),
                    'guided' => $s->isGuided(),
                    'figure' => $s->figure(),
                    'asked' => $s->isGuided() ? Course::fromArray($s->asked())->counts() : $s->asked(),
                    'tries' => $s->tries(),
                    'trials' => array_map(static fn (Trial $t): int => $t->number(), $this->handed($s)),
                ],
                array_values(array_filter(
                    $this->entities->getRepository(Search::class)->findBy(
                        ['question' => $question, 'state' => Search::DONE],
                        ['number' => 'ASC'],
                    ),
                    $this->stands(...),
                )),
            ),
            'scorings' => array_map(static fn (Scoring $s): array => [
                'trial' => $s->trial()->number(),
                'table' => $s->table()->name(),
                'cutoff' => $s->cutoff(),
                'matching' => (object) $s->matching(),
                'answers' => (object) $s->settled(),
                'records' => $s->scored(),
                'called' => $s->called(),
                'print' => self::print($s),
            ], $scorings),
            'decisions' => array_map(fn (Decision $d): array => [
                'name' => $d->name(),
                'scoring' => array_search($d->scoring(), $scorings, true),
                'terms' => $d->terms(),
                'return' => $this->weighing->of($d)->acted->return,
            ], array_values(array_filter(
                \is_array($decisions) ? $decisions : [],
                static fn (mixed $d): bool => $d instanceof Decision && \in_array($d->scoring(), $scorings, true),
            ))),
            'approvals' => array_map(static fn (Approval $a): array => [
                'number' => $a->number(), 'trial' => $a->trial()?->number(), 'by' => $a->by(), 'sentence' => $a->sentence(), 'limits' => $a->limits(),
            ], $this->entities->getRepository(Approval::class)->findBy(['study' => $study], ['number' => 'ASC'])),
        ];
    }

    /** @return array<string, mixed> */
    private function trial(Trial $trial): array
    {
        return [
            'number' => $trial->number(),
            'variant' => $trial->variant()?->letter(),
            'learner' => $trial->learner(),
            'settings' => (object) $trial->settings(),
            'steps' => $trial->steps(),
            'part' => $trial->part(),
            'choice' => $trial->choice()?->toArray(),
            'calibration' => $trial->calibration(),
            'blends' => array_values(
                array_map(
                    fn (int $id): int => $this->entities->find(Trial::class, $id)?->number() ?? 0,
                    $trial->isBlend() ? self::members($trial) : [],
                ),
            ),
            'newer' => null !== $trial->newer(),
            'stale' => implode('; ', Ancestry::stale($trial)),
            'ancestry' => $trial->ancestry(),
            'value' => $trial->line()->value,
            'low' => $trial->line()->low,
            'high' => $trial->line()->high,
            'prints' => self::prints($trial),
        ];
    }

    /** Whether a search can be done again: what it handed over still stands on what is there now. */
    private function stands(Search $search): bool
    {
        $handed = $this->handed($search);
        $standing = array_filter($handed, static fn (Trial $t): bool => [] === Ancestry::stale($t));

        return !$search->isStale() && ([] === $handed || [] !== $standing);
    }

    /** @return list<int> numbers, by id, of the trials that a blend is made of */
    private static function members(Trial $blend): array
    {
        $of = $blend->settings()['of'] ?? [];

        return array_values(array_filter(\is_array($of) ? $of : [], is_int(...)));
    }

    /** @return list<Trial> what a search handed over: its best, or of a guided one the best of each learner, the best first */
    public function handed(Search $search): array
    {
        $trials = $search->isGuided()
            ? array_map(
                fn (array $f): ?Trial => $this->entities->find(Trial::class, $f['trialId'] ?? 0),
                Course::fromArray($search->asked())->finals,
            )
            : [$search->trial()];

        return array_values(array_filter($trials));
    }

    /** What a batch has to come to, to the last bit. */
    public static function print(Scoring $scoring): string
    {
        return hash('sha256', self::json([$scoring->scored(), $scoring->called(), $scoring->summary()]));
    }

    /**
     * What has to be the same to the last bit.
     *
     * @return array{figures: string, model: string}
     */
    public static function prints(Trial $trial): array
    {
        $line = $trial->line();

        return [
            'figures' => hash(
                'sha256',
                self::json([$line->value, $line->low, $line->high, $line->training, $line->each, $line->baseline])
                    .pack('e*', ...$trial->answers()->values),
            ),
            'model' => hash('sha256', self::json($trial->isBlend() ? self::ofNoInstallation($trial->model() ?? []) : $trial->model())),
        ];
    }

    /**
     * Of a blend all but the numbers of its trials, which are others on another installation.
     *
     * @param array<string, mixed> $blend
     *
     * @return array<string, mixed>
     */
    private static function ofNoInstallation(array $blend): array
    {
        return ['model' => array_diff_key(\is_array($blend['model'] ?? null) ? $blend['model'] : [], ['of' => 0, 'notes' => 0])] + $blend;
    }

    public static function json(mixed $of): string
    {
        return json_encode(
            $of,
            \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
        );
    }
}
