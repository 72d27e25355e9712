<?php

declare(strict_types=1);

namespace App\Replay;

use App\Account\User;
use App\Http\Problem;
use App\Job\PieceQueue;
use App\Job\RunPiece;
use App\Job\RunPieceHandler;
use App\Logbook\Logbook;
use App\Preparation\Variant;
use App\Preparation\Variants;
use App\Question\Questions;
use App\Question\TargetRequest;
use App\Question\Targets;
use App\Register\Columns;
use App\Source\Upload;
use App\Source\Uploads;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\Tables;
use App\Trial\Trial;
use App\Trial\TrialPlan;
use App\Trial\Trials;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Validate\ColumnChoice;
use Opis\JsonSchema\Validator;

/** Does a study again from its file, and says where it parts from what was found before. */
final readonly class Replay
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Uploads $uploads,
        private Tables $tables,
        private Columns $columns,
        private Targets $targets,
        private Variants $variants,
        private Trials $trials,
        private Questions $questions,
        private PieceQueue $queue,
        private RunPieceHandler $handler,
        private Logbook $logbook,
        private string $projectDirectory,
    ) {
    }

    /**
     * @return array<string, mixed>
     *
     * @throws Problem where it is no study of a version that is known
     */
    public function read(string $json): array
    {
        $plain = json_decode($json, false, 512);
        $schema = json_decode(
            (string) file_get_contents($this->projectDirectory.'/docs/schemas/study-1.json'),
            false,
            512,
            \JSON_THROW_ON_ERROR,
        );
        if (!\is_object($plain) || !\is_object($schema)) {
            throw Problem::invalid('This is no study as Dokimos writes it: it is not JSON.', 'file');
        }
        $checked = (new Validator())->validate($plain, $schema);
        if (!$checked->isValid()) {
            $error = $checked->error();
            $at = implode('/', array_map(strval(...), $error?->data()->fullPath() ?? []));
            throw Problem::invalid(\sprintf('This is no study as Dokimos writes it%s.', '' === $at ? '' : ': see '.$at), 'file');
        }

        /** @var array<string, mixed> */
        return (array) json_decode($json, true, 512, \JSON_THROW_ON_ERROR);
    }

    /** Brings a file in as a table; the work is done here and now. */
    public function import(Study $study, User $user, string $name, string $path): void
    {
        $size = (int) filesize($path);
        $upload = $this->uploads->begin($user, basename($path), $size);
        $file = fopen($path, 'r') ?: throw new \RuntimeException($path.' cannot be read.');
        for ($at = 0; $at < $size; $at += Upload::PIECE) {
            $piece = (string) fread($file, Upload::PIECE);
            $this->uploads->receive($upload, $at, $piece, hash('sha256', $piece));
        }
        $this->tables->import($study, $user, $upload, $name, null);
        $this->work();
    }

    /**
     * Kinds, uses, target, split and variants as the file has them; trials are begun.
     *
     * @param array<string, mixed> $file
     *
     * @return list<string> what differs, and what is not done again
     */
    public function apply(Study $study, User $user, array $file): array
    {
        $differs = [];
        /**
         * @var list<array{
         *     name: string, fingerprint: string,
         *     columns: list<array{name: string, kind: string, use: string, known: bool}>,
         * }> $sources
         */
        $sources = $file['sources'];
        foreach ($sources as $source) {
            $table = $this->table($study, $source['name']);
            if (null === $table) {
                $differs[] = \sprintf('The table %s is not here: import it under this name.', $source['name']);
                continue;
            }
            foreach ($source['columns'] as $own) {
                $column = $table->column($own['name']);
                if (null === $column) {
                    $differs[] = \sprintf('%s has no column %s.', $source['name'], $own['name']);
                    continue;
                }
                $kind = Kind::from($own['kind']);
                $use = ColumnUse::from($own['use']);
                $this->columns->change(
                    $column,
                    $user,
                    $kind === $column->kind() ? null : $kind,
                    ColumnUse::Target === $use || $use === $column->use() ? null : $use,
                    $own['known'] === $column->isKnown() ? null : $own['known'],
                );
            }
            if ($table->fingerprint() !== $source['fingerprint']) {
                $differs[] = \sprintf(
                    'The records of %s are others: fingerprint %s instead of %s.',
                    $source['name'],
                    substr($table->fingerprint(), 0, 12),
                    substr($source['fingerprint'], 0, 12),
                );
            }
        }
        $this->ask($study, $user, $file);
        $this->prepare($study, $user, $file);
        array_push($differs, ...$this->try($study, $user, $file));
        $this->logbook->write(
            $study,
            $user,
            'studies',
            \sprintf('Began again from the file of "%s".', \is_string($file['name']) ? $file['name'] : ''),
        );
        $this->entities->flush();

        return $differs;
    }

    /** @param array<string, mixed> $file */
    private function ask(Study $study, User $user, array $file): void
    {
        /** @var ?array{table: string, column: string, event: ?string, task: string, figure: string} $target */
        $target = $file['target'];
        /**
         * @var array{sealedShare?: float|int, folds?: int, repeats?: int, seed?: int, way?: string, column?: ?string, validation?: ?string,
         * sealedValue?: ?string} $split
         */
        $split = $file['split'] ?? [];
        $table = null === $target ? null : $this->table($study, $target['table']);
        if (null === $target || null === $table) {
            return;
        }
        $this->targets->choose($study, $user, new TargetRequest(
            $target['column'],
            $target['event'],
            $target['task'],
            $table->id(),
            isset($split['sealedShare']) ? (float) $split['sealedShare'] : null,
            $split['folds'] ?? null,
            $split['repeats'] ?? null,
            $split['seed'] ?? null,
            $split['way'] ?? null,
            $split['column'] ?? null,
            $split['validation'] ?? null,
            $split['sealedValue'] ?? null,
        ));
        if ($this->questions->of($study)->figure()->key !== $target['figure']) {
            $this->trials->rankBy($study, $user, $target['figure']);
        }
    }

    /** @param array<string, mixed> $file */
    private function prepare(Study $study, User $user, array $file): void
    {
        /** @var list<array{letter: string, name: string, steps: list<array<string, mixed>>}> $variants */
        $variants = $file['variants'];
        if (null === $this->questions->of($study)->table()) {
            return;
        }
        $there = $this->variants->of($study);
        foreach ($variants as $i => $variant) {
            isset($there[$i])
                ? $this->variants->change($there[$i], $user, $variant['name'], $variant['steps'])
                : $this->variants->create($study, $user, $variant['name'], null, $variant['steps']);
        }
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return list<string>
     */
    private function try(Study $study, User $user, array $file): array
    {
        if (null === $this->questions->of($study)->target()) {
            return ['No trial is done again: the target is not here.'];
        }
        $variants = [];
        foreach ($this->entities->getRepository(Variant::class)->findBy(['study' => $study], ['letter' => 'ASC']) as $i => $variant) {
            $variants[$i] = $variant;
        }
        /** @var list<array{letter: string}> $kept */
        $kept = $file['variants'];
        $by = [];
        foreach ($kept as $i => $own) {
            $by[$own['letter']] = $variants[$i] ?? null;
        }
        $not = [];
        /**
         * @var list<array{
         *     number: int, variant: ?string, learner: string, settings: array<string, mixed>,
         *     part: ?int, choice: ?array<string, mixed>, calibration: string,
         * }> $trials
         */
        $trials = $file['trials'];
        foreach ($trials as $trial) {
            $variant = $by[$trial['variant'] ?? ''] ?? null;
            if (null === $variant || 'blend' === $trial['learner']) {
                $not[] = \sprintf(
                    'Trial %d is not done again: %s.',
                    $trial['number'],
                    null === $variant ? 'its variant is gone' : 'a blend is made of others',
                );
                continue;
            }
            $this->trials->start($study, $user, new TrialPlan(
                $variant,
                $trial['learner'],
                $trial['settings'],
                $trial['part'],
                null === $trial['choice'] ? null : ColumnChoice::fromArray($trial['choice']),
                $trial['calibration'],
            ));
        }
        foreach (['searches', 'scorings', 'decisions', 'approvals'] as $sort) {
            $many = \is_array($file[$sort] ?? null) ? \count($file[$sort]) : 0;
            if ($many > 0) {
                $not[] = \sprintf('%d %s are told in the file and not done again.', $many, $sort);
            }
        }

        return $not;
    }

    /** All work that waits, done here and now. */
    public function work(): void
    {
        foreach (['quick', 'long'] as $lane) {
            while (null !== $piece = $this->queue->claim($lane, 'replay')) {
                ($this->handler)(new RunPiece($piece));
            }
        }
    }

    /**
     * Holds what was found against the file, trial by trial, and says at which ancestor they part.
     *
     * @param array<string, mixed> $file
     *
     * @return array{same: int, differs: list<string>}
     */
    public function compare(Study $study, array $file): array
    {
        $own = $this->entities->getRepository(Trial::class)->findBy(
            ['question' => $this->questions->of($study), 'state' => Trial::DONE],
            ['number' => 'ASC'],
        );
        $same = 0;
        $differs = [];
        /**
         * @var list<array{
         *     number: int, variant: ?string, learner: string,
         *     ancestry: array<string, string>, value: ?float, prints: array{figures: string, model: string},
         * }> $trials
         */
        $trials = array_values(
            array_filter(
                \is_array($file['trials']) ? $file['trials'] : [],
                static fn (mixed $t): bool => \is_array($t) && null !== ($t['variant'] ?? null) && 'blend' !== ($t['learner'] ?? null),
            ),
        );
        foreach ($trials as $i => $kept) {
            $trial = $own[$i] ?? null;
            if (null === $trial) {
                $differs[] = \sprintf('Trial %d came to no end.', $kept['number']);
                continue;
            }
            if (StudyFile::prints($trial) === $kept['prints']) {
                ++$same;
                continue;
            }
            $differs[] = \sprintf(
                'Trial %d parts at %s: %s instead of %s.',
                $kept['number'],
                self::ancestor($kept['ancestry'], $trial->ancestry()),
                json_encode($trial->line()->value),
                json_encode($kept['value']),
            );
        }

        return ['same' => $same, 'differs' => $differs];
    }

    /**
     * @param array<string, string> $then
     * @param array<string, string> $now
     */
    private static function ancestor(array $then, array $now): string
    {
        $names = [
            'study' => 'the records, the target or the split',
            'steps' => 'the steps of its preparation',
            'columns' => 'the kinds or uses of columns',
            'weight' => 'the column of weights',
            'code' => 'the version of the algorithm',
        ];
        foreach ($names as $part => $name) {
            if (($then[$part] ?? '') !== ($now[$part] ?? '')) {
                return $name;
            }
        }

        return 'the fit itself (another build of PHP, or another machine)';
    }

    private function table(Study $study, string $name): ?DataTable
    {
        return $this->entities->getRepository(DataTable::class)->findOneBy(
            ['study' => $study, 'name' => $name, 'state' => DataTable::READY],
        );
    }
}
