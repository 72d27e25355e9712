<?php

declare(strict_types=1);

namespace App\Trial;

use App\Preparation\Variant;
use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Task\Answers;

/** One model fitted with one preparation variant and one set of settings under the study's split plan. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['study_id', 'number'])]
class Trial implements InStudy
{
    public const WAITING = 'waiting';
    public const DONE = 'done';
    public const FAILED = 'failed';
    public const CANCELLED = 'cancelled';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    private string $state = self::WAITING;

    #[ORM\Column(length: 400, nullable: true)]
    private ?string $failure = null;

    /** @var array<string, mixed> validation figures, written when the last fold is in */
    #[ORM\Column(type: Types::JSON)]
    private array $figures = [];

    /** The model and its preparation as fitted on all unsealed rows. */
    #[ORM\OneToOne(cascade: ['persist', 'remove']), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    private ?FittedModel $fitted = null;

    /** Out-of-fold answers for the unsealed rows, one repeat after the other, packed float64; NAN = none. */
    #[ORM\Column(type: Types::TEXT, nullable: true)]
    private ?string $chances = null;

    /** @var array<string, mixed>|null figures on the sealed rows, once opened */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $sealedFigures = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /**
     * @param list<array<string, mixed>> $steps    the variant's steps at that moment
     * @param list<string>               $inputs
     * @param array<string, mixed>       $settings
     * @param array<string, string>      $ancestry what it is made from: part => hash
     */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\Column]
        private int $number,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
        private ?Variant $variant,
        #[ORM\Column(length: 40)]
        private string $learner,
        #[ORM\Column(type: Types::JSON)]
        private array $settings,
        #[ORM\Column(type: Types::JSON)]
        private array $steps,
        #[ORM\Column(type: Types::JSON)]
        private array $inputs,
        #[ORM\Column(type: Types::JSON)]
        private array $ancestry,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function number(): int
    {
        return $this->number;
    }

    public function variant(): ?Variant
    {
        return $this->variant;
    }

    public function learner(): string
    {
        return $this->learner;
    }

    /** @return array<string, mixed> */
    public function settings(): array
    {
        return $this->settings;
    }

    /** @return list<array<string, mixed>> */
    public function steps(): array
    {
        return $this->steps;
    }

    /** @return list<string> */
    public function inputs(): array
    {
        return $this->inputs;
    }

    /** @return array<string, string> compared on read to tell whether the result is stale */
    public function ancestry(): array
    {
        return $this->ancestry;
    }

    public function state(): string
    {
        return $this->state;
    }

    public function isDone(): bool
    {
        return self::DONE === $this->state;
    }

    public function failure(): ?string
    {
        return $this->failure;
    }

    /**
     * @param array<string, mixed> $figures
     * @param array<string, mixed> $model
     * @param list<Answers>        $answers per repeat
     */
    public function finish(array $figures, array $model, array $answers): void
    {
        $this->state = self::DONE;
        $this->figures = $figures;
        $this->fitted = new FittedModel($model);
        $this->figures['answeredRepeats'] = \count($answers);
        $this->chances = base64_encode(implode('', array_map(static fn (Answers $own): string => [] === $own->values ? '' : pack('e*', ...$own->values), $answers)));
    }

    public function fail(string $sentence): void
    {
        $this->state = self::FAILED;
        $this->failure = mb_substr($sentence, 0, 400);
    }

    public function cancel(): void
    {
        $this->state = self::CANCELLED;
    }

    /** @return array<string, mixed> */
    public function figures(): array
    {
        return $this->figures;
    }

    /** @return array<string, mixed>|null */
    public function model(): ?array
    {
        return $this->fitted?->document();
    }

    /**
     * Out-of-fold answers of the first repeat, for the unsealed rows with a known outcome: of models like the one that scores, each on rows it
     * had not seen.
     */
    public function answers(): Answers
    {
        return $this->repeats()[0] ?? new Answers([], Answers::widthOf($this->study->classes()));
    }

    /** @return list<Answers> the same of every repeat */
    public function repeats(): array
    {
        $bytes = null === $this->chances ? '' : (string) base64_decode($this->chances, true);
        $repeats = $this->figures['answeredRepeats'] ?? 1;
        $length = intdiv(\strlen($bytes), max(1, \is_int($repeats) ? $repeats : 1));
        $out = [];
        foreach ($length < 1 ? [] : str_split($bytes, $length) as $own) {
            /** @var array<int, float> $values */
            $values = unpack('e*', $own) ?: [];
            $out[] = new Answers(array_values($values), Answers::widthOf($this->study->classes()));
        }

        return $out;
    }

    /** @return array<string, mixed>|null */
    public function sealedFigures(): ?array
    {
        return $this->sealedFigures;
    }

    /** @param array<string, mixed> $figures */
    public function openSeal(array $figures): void
    {
        $this->sealedFigures = $figures;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
