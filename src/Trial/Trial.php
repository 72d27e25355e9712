<?php

declare(strict_types=1);

namespace App\Trial;

use App\Http\Problem;
use App\Preparation\Variant;
use App\Question\Question;
use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Calibrate\Way;
use Dokimos\Core\Decide\Blended;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\ColumnChoice;

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

    /** @var array<string, mixed>|null the values that a list shows, once done: TrialLine */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $line = null;

    /** Which opening of the study's seal was this trial's; null = its seal is closed. */
    #[ORM\Column(nullable: true)]
    private ?int $opening = null;

    #[ORM\OneToOne(cascade: ['persist', 'remove']), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    private ?TrialResult $result = null;

    /** The model and its preparation as fitted on all unsealed rows. */
    #[ORM\OneToOne(cascade: ['persist', 'remove']), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    private ?FittedModel $fitted = null;

    /** What somebody wrote beside it. */
    #[ORM\Column(length: 400, options: ['default' => ''])]
    private string $note = '';

    /** Whether the Standings leave it out of sight. */
    #[ORM\Column(options: ['default' => false])]
    private bool $hidden = false;

    /** The same fitted once more on all records, after its seal was opened: what is handed on. */
    #[ORM\OneToOne(cascade: ['persist', 'remove']), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    private ?FittedModel $handed = null;

    /** Records that one learned from. */
    #[ORM\Column(nullable: true)]
    private ?int $handedRows = null;

    /** @var array{table: int, by: ?string, rows: int, use?: string, name?: ?string}|null Newer */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $more = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /**
     * @param list<array<string, mixed>> $steps    the variant's steps at that moment
     * @param list<string>               $inputs
     * @param array<string, mixed>       $settings
     * @param array<string, string>      $ancestry what it is made from: part => hash
     * @param ?int                       $part     learns from so many of the training rows; null = all
     * @param array<string, mixed>|null  $choice   which prepared columns may serve; null = all
     * @param array<string, mixed>|null  $chosen   where it was chosen among many
     */
    public function __construct(
        // A question has the id of its study.
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'study_id', referencedColumnName: 'id', nullable: false, onDelete: 'CASCADE')]
        private Question $question,
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
        #[ORM\Column(nullable: true)]
        private ?int $part = null,
        #[ORM\Column(type: Types::JSON, nullable: true)]
        private ?array $choice = null,
        #[ORM\Column(length: 30, options: ['default' => Way::NONE])]
        private string $calibration = Way::NONE,
        #[ORM\Column(type: Types::JSON, nullable: true)]
        private ?array $chosen = null,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function learnFrom(Newer $newer): void
    {
        $this->more = $newer->toArray();
    }

    public function newer(): ?Newer
    {
        return null === $this->more ? null : Newer::fromArray($this->more);
    }

    public function study(): Study
    {
        return $this->question->study();
    }

    public function question(): Question
    {
        return $this->question;
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

    /** Whether it is made of other trials instead of being fitted. */
    public function isBlend(): bool
    {
        return Blended::NAME === $this->learner;
    }

    /**
     * Its learner, to fit with once more.
     *
     * @throws Problem for a blend
     */
    public function refitted(): Learner
    {
        if ($this->isBlend()) {
            throw new Problem(409, 'A blend is weighed, not fitted: ask that of the trials that it is made of.');
        }

        return Learners::make($this->learner, $this->settings);
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

    /** Learns from so many of the training rows; null = all. */
    public function part(): ?int
    {
        return $this->part;
    }

    /** Which prepared columns may serve; null = all. */
    public function choice(): ?ColumnChoice
    {
        return null === $this->choice ? null : ColumnChoice::fromArray($this->choice);
    }

    /** How its chances are made to come true: one of Way. */
    public function calibration(): string
    {
        return $this->calibration;
    }

    public function chosen(): ?Chosen
    {
        return null === $this->chosen ? null : Chosen::fromArray($this->chosen);
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
        $this->line = TrialLine::ofFigures($figures, $this->question->task())->toArray();
        $this->fitted = new FittedModel($model);
        $this->result = new TrialResult($figures, $answers);
    }

    /** What a list shows, by the figure that ranks now. */
    public function line(): TrialLine
    {
        if (null === $this->line) {
            return TrialLine::none($this->question->task());
        }
        $line = TrialLine::fromArray($this->line);

        return $this->by($line, $this->question->figureOf($line->task));
    }

    /** The same by any figure that ranks. */
    public function lineBy(Figure $figure): TrialLine
    {
        return null === $this->line ? $this->line() : $this->by(TrialLine::fromArray($this->line), $figure);
    }

    private function by(TrialLine $line, Figure $figure): TrialLine
    {
        $line = $figure->key === Figures::ranking($line->task)->key ? $line : $line->by($figure, $this->figures(...));
        $chosen = $this->chosen();

        return null !== $chosen && $chosen->figure === $figure->key ? $line->corrected($figure, $chosen) : $line;
    }

    /** Whether its line tells a figure. */
    public function tells(Figure $figure): bool
    {
        return Figures::ranking($this->question->task())->key === $figure->key || isset($this->line['others'][$figure->key]);
    }

    /** @param array<string, mixed> $value with its interval and baseline, of a figure that was not thought of when it was fitted */
    public function tell(Figure $figure, array $value): void
    {
        if (null !== $this->line) {
            $line = $this->line;
            $line['others'] = [$figure->key => $value] + (\is_array($line['others'] ?? null) ? $line['others'] : []);
            $this->line = $line;
        }
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
        return $this->result?->figures() ?? [];
    }

    /** @return array<string, mixed>|null */
    public function model(): ?array
    {
        return $this->fitted?->document();
    }

    /**
     * Out-of-fold answers of the first repeat, for the unsealed rows with a known outcome: of models like the one that scores, each on
     * rows it
     * had not seen.
     */
    public function answers(): Answers
    {
        return $this->repeats()[0] ?? new Answers([]);
    }

    /** @return list<Answers> the same of every repeat */
    public function repeats(): array
    {
        return $this->result?->repeats() ?? [];
    }

    public function opening(): ?int
    {
        return $this->opening;
    }

    /** @return array<string, mixed>|null */
    public function sealedFigures(): ?array
    {
        return null === $this->opening ? null : $this->result?->sealedFigures();
    }

    /** @param array<string, mixed> $figures */
    public function openSeal(int $opening, array $figures): void
    {
        $this->opening = $opening;
        $this->result?->openSeal($figures);
    }

    public function note(): string
    {
        return $this->note;
    }

    public function isHidden(): bool
    {
        return $this->hidden;
    }

    public function remark(string $note, bool $hidden): void
    {
        $this->note = $note;
        $this->hidden = $hidden;
    }

    /** @return array<string, mixed>|null the model fitted on all records, for use */
    public function handed(): ?array
    {
        return $this->handed?->document();
    }

    public function handedRows(): ?int
    {
        return $this->handedRows;
    }

    /**
     * @param array<string, mixed> $model
     * @param int                  $rows  it learned from
     */
    public function handOn(array $model, int $rows): void
    {
        $this->handed = new FittedModel($model);
        $this->handedRows = $rows;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
