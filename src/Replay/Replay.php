<?php

declare(strict_types=1);

namespace App\Replay;

use App\Account\User;
use App\Http\Problem;
use App\Job\PieceQueue;
use App\Job\RunPiece;
use App\Job\RunPieceHandler;
use App\Logbook\Logbook;
use App\Overview\Studies;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Opis\JsonSchema\Validator;

/** Does a study again from its file, step by step as its tables come, and says where it parts from what was found before. */
final readonly class Replay
{
    /** Depth of a file. */
    private const DEEP = 512;

    public function __construct(
        private EntityManagerInterface $entities,
        private Studies $studies,
        private ReplayTables $tables,
        private ReplayTrials $trials,
        private ReplayLists $lists,
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
        $plain = json_decode($json, false, self::DEEP);
        $schema = json_decode(
            (string) file_get_contents($this->projectDirectory.'/docs/schemas/study-1.json'),
            false,
            self::DEEP,
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
        return (array) json_decode($json, true, self::DEEP, \JSON_THROW_ON_ERROR);
    }

    /** A study of its own, which waits for its tables. */
    public function begin(User $user, string $json): Study
    {
        $file = $this->read($json);
        $study = $this->studies->create(
            $user,
            \is_string($file['name']) ? $file['name'] : '',
            \is_string($file['question']) ? $file['question'] : '',
        );
        $this->follow($study, $user, $json);

        return $study;
    }

    /** From now on this study is done after the file. */
    public function follow(Study $study, User $user, string $json): void
    {
        $file = $this->read($json);
        $plan = $this->plan($study);
        null === $plan ? $this->entities->persist(new StudyPlan($study, $json)) : $plan->beginWith($json);
        $this->logbook->write(
            $study,
            $user,
            'studies',
            \sprintf('Began again from the file of "%s".', \is_string($file['name']) ? $file['name'] : ''),
        );
        $this->entities->flush();
    }

    private function plan(Study $study): ?StudyPlan
    {
        return $this->entities->find(StudyPlan::class, $study->id());
    }

    /**
     * Begins all that can be begun now: what waits for tables, trials or batches is begun by a later call.
     *
     * @return bool whether anything was begun
     *
     * @throws Problem where the study follows no file
     */
    public function goOn(Study $study, User $user): bool
    {
        $plan = $this->plan($study) ?? throw new Problem(409, 'This study follows no file. Choose one.');
        $file = $this->read($plan->file());
        $before = serialize($plan);
        if ($this->tables->goOn($plan, $user, $file)) {
            $this->trials->goOn($plan, $user, $file);
            $this->lists->goOn($plan, $user, $file);
        }
        $this->entities->flush();

        return serialize($plan) !== $before;
    }

    /** How far it is, and what differs from what the file tells; nothing where the study follows no file. */
    public function view(Study $study): ?ReplayView
    {
        $plan = $this->plan($study);
        if (null === $plan) {
            return null;
        }
        $file = $this->read($plan->file());
        $compared = $this->trials->compare($plan, $file);
        $lists = $this->lists->compare($plan, $file);

        return new ReplayView(
            \is_string($file['name']) ? $file['name'] : '',
            $this->tables->sources($plan, $file),
            $compared['same'],
            $compared['waiting'],
            $lists['same'],
            $lists['waiting'],
            [...$compared['differs'], ...$lists['differs']],
            [...$this->trials->not($file), ...$this->lists->not($file)],
        );
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
}
