<?php

declare(strict_types=1);

namespace App\Trial;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Question\Question;
use App\Question\Questions;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Stamp;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\Clarity;
use Psr\Cache\CacheItemPoolInterface;

/** The two finalists of a study: the strongest, and the clearest that is good enough. */
final readonly class Finalists
{
    /** Leaves, rules or terms that may be read, until somebody says otherwise. */
    public const READING = 30;
    /** So many of the best are looked at for the price. */
    private const AMONG = 40;
    /** Values that a request may go through for it: trials times rows. */
    private const AT_ONCE = 300_000;
    private const KEPT = 86400 * 30;
    private const FORM = 1;

    public function __construct(
        private EntityManagerInterface $entities,
        private Questions $questions,
        private Validation $validation,
        private CacheItemPoolInterface $pool,
        private Logbook $logbook,
    ) {
    }

    /**
     * @param list<Trial> $ranked best first
     * @param bool        $now    whether the price may be worked out here, where that takes long
     */
    public function of(Study $study, array $ranked, bool $now): FinalistsView
    {
        $question = $this->questions->of($study);
        $asked = $this->asked($question);
        $able = array_values(array_filter(
            $ranked,
            static fn (Trial $t): bool => null !== $t->line()->value && $t->line()->task === $question->task() && [] === Ancestry::stale($t) && null === $t->part(),
        ));
        $by = static fn (?int $id): ?Trial => array_values(array_filter($able, static fn (Trial $t): bool => $t->id() === $id))[0] ?? null;
        $strongest = $by($asked->strongestId) ?? $able[0] ?? null;
        $within = null === $strongest ? [] : array_values(array_filter(
            $able,
            fn (Trial $t): bool => $this->isWithin($t, $strongest, $asked, $question),
        ));
        $clearest = $by($asked->clearestId) ?? $within[0] ?? null;
        $byHand = null !== $by($asked->strongestId) || null !== $by($asked->clearestId);
        [$price, $pending] = null === $strongest || null === $clearest ? [new Interval(null), false] : $this->price(
            $study,
            $able,
            $within,
            $strongest,
            $clearest,
            $asked,
            $now,
        );

        return new FinalistsView(
            $asked->reading, $asked->least, $asked->loss, $strongest?->id(), $clearest?->id(), $byHand, $byHand ? $asked->reason : '',
            $price->value, $price->low, $price->high, $pending, $strongest?->line()->reached, $clearest?->line()->reached,
        );
    }

    private function isWithin(Trial $trial, Trial $strongest, FinalistsRequest $asked, Question $question): bool
    {
        $line = $trial->line();
        $sign = $question->figure()->more ? 1.0 : -1.0;

        return null !== $line->reading && $line->reading <= $asked->reading && Learners::needsColumns($trial->learner())
            && (null === $asked->least || $sign * ($line->value ?? 0.0) >= $sign * $asked->least)
            && (null === $asked->loss || $sign * (($strongest->line()->value ?? 0.0) - ($line->value ?? 0.0)) <= $asked->loss);
    }

    private function asked(Question $question): FinalistsRequest
    {
        $kept = $question->finalists();
        $float = static fn (string $k): ?float => is_numeric($kept[$k] ?? null) ? (float) $kept[$k] : null;
        $id = static fn (string $k): ?int => \is_int($kept[$k] ?? null) ? $kept[$k] : null;

        return new FinalistsRequest(
            $id('reading') ?? self::READING,
            $float('least'),
            $float('loss'),
            $id('strongestId'),
            $id('clearestId'),
            \is_string($kept['reason'] ?? null) ? $kept['reason'] : '',
        );
    }

    /**
     * @param list<Trial> $able
     * @param list<Trial> $within
     *
     * @return array{Interval, bool} price, and whether it is still to be worked out
     */
    private function price(
        Study $study,
        array $able,
        array $within,
        Trial $strongest,
        Trial $clearest,
        FinalistsRequest $asked,
        bool $now,
    ): array {
        if ($strongest === $clearest) {
            return [new Interval(0.0), false];
        }
        $by = [];
        foreach ([...\array_slice($able, 0, self::AMONG), ...\array_slice($within, 0, self::AMONG), $strongest, $clearest] as $trial) {
            $by[$trial->id()] = $trial;
        }
        $able = array_values($by);
        $strong = array_map(static fn (Trial $t): bool => null === $asked->strongestId || $t === $strongest, $able);
        $clear = array_map(
            static fn (Trial $t): bool => null === $asked->clearestId || $clearest->id() !== $asked->clearestId ? \in_array($t, $within, true) : $t === $clearest,
            $able,
        );
        $figure = $this->questions->of($study)->figure();
        $marks = array_map(static fn (Trial $t): array => [$t->id(), $t->ancestry(), $t->line()->toArray()], $able);
        $item = $this->pool->getItem('clarity.'.Stamp::of([
            self::FORM,
            $this->questions->of($study)->hash(),
            $figure->key,
            $marks,
            $strong,
            $clear,
        ]));
        if ($item->isHit()) {
            /** @var array{?float, ?float, ?float} $kept */
            $kept = $item->get();

            return [new Interval(...$kept), false];
        }
        if (!$now && \count($able) * $strongest->line()->rows > self::AT_ONCE) {
            return [new Interval(null), true];
        }
        $folds = $this->validation->of($study);
        $answers = array_map(static fn (Trial $t): Answers => $folds->answers($t->repeats())->firstFilled(), $able);
        $told = $folds->answers($able[0]->repeats());
        $price = Clarity::of($figure, $told->outcomes(), $answers, $strong, $clear, 2026, $folds->weightsOf($told->rows()));
        $price = null === $price->value || null === $price->low ? $price : $told->widened($price, $price->value);
        $this->pool->save($item->set([$price->value, $price->low, $price->high])->expiresAfter(self::KEPT));

        return [$price, false];
    }

    /** @throws Problem when a finalist is named that is none of the study's, or without a reason */
    public function choose(Study $study, User $user, FinalistsRequest $request): void
    {
        $question = $this->questions->of($study);
        $named = [];
        foreach (['strongest' => $request->strongestId, 'clearest' => $request->clearestId] as $which => $id) {
            $trial = null === $id ? null : $this->entities->find(Trial::class, $id);
            if (null !== $id && ($trial?->question() !== $question || null === $trial->line()->value)) {
                throw Problem::notFound('trial');
            }
            if (null !== $trial) {
                $named[] = \sprintf('trial %d as the %s', $trial->number(), $which);
            }
        }
        if ([] !== $named && '' === trim($request->reason)) {
            throw Problem::invalid('Say why: a finalist chosen by hand stands in the logbook with its reason.', 'reason');
        }
        $question->choose([
            'reading' => $request->reading,
            'least' => $request->least,
            'loss' => $request->loss,
            'strongestId' => $request->strongestId,
            'clearestId' => $request->clearestId,
            'reason' => trim($request->reason),
        ]);
        $figure = $question->figure();
        $limits = \sprintf(
            'up to %s to read',
            number_format($request->reading),
        ).(null === $request->least ? '' : \sprintf(', %s %s or better', $figure->name, $figure->said($request->least))).(null === $request->loss ? '' : \sprintf(', a loss of at most %s', $figure->said($request->loss)));
        $this->logbook->write(
            $study,
            $user,
            'judgment',
            \sprintf('Finalists: %s%s.', $limits, [] === $named ? '' : '; '.implode(' and ', $named).', because: '.trim($request->reason)),
        );
        $this->entities->flush();
    }
}
