<?php

declare(strict_types=1);

namespace App\Replay;

use App\Account\Accounts;
use App\Http\Problem;
use App\Overview\Studies;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Refusal;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Does a study again from its file and the same sources. */
#[AsCommand('dokimos:study:run', 'Do a study again from its file, and hold what is found against it')]
final class RunStudyCommand extends Command
{
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Accounts $accounts,
        private readonly Studies $studies,
        private readonly Replay $replay,
    ) {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('file', InputArgument::REQUIRED, 'A study as dokimos:study:save writes it')
            ->addOption('by', null, InputOption::VALUE_REQUIRED, 'Sign-in name of who will own it')
            ->addOption('source', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'name=file, for each source', []);
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $by = $input->getOption('by');
        $user = \is_string($by) ? $this->accounts->find($by) : null;
        if (null === $user) {
            $output->writeln('Say whose it will be: --by=sign-in name.');

            return 2;
        }
        try {
            $path = $input->getArgument('file');
            $file = $this->replay->read(\is_string($path) ? (string) @file_get_contents($path) : '');
            $study = $this->studies->create(
                $user,
                \is_string($file['name']) ? $file['name'] : '',
                \is_string($file['question']) ? $file['question'] : '',
            );
            $id = $study->id();
            $given = $input->getOption('source');
            foreach (\is_array($given) ? $given : [] as $source) {
                [$name, $from] = [...explode('=', \is_string($source) ? $source : '', 2), ''];
                if (!is_file($from)) {
                    $output->writeln(\sprintf('There is no file %s.', $from));

                    return 2;
                }
                $this->replay->import($study, $user, $name, $from);
                // The work has its own view of what is stored.
                $study = $this->entities->find(Study::class, $id) ?? throw Problem::notFound('study');
                $user = $this->accounts->find((string) $by) ?? throw Problem::notFound('user');
            }
            $says = $this->replay->apply($study, $user, $file);
            $this->replay->work();
            $study = $this->entities->find(Study::class, $id) ?? throw Problem::notFound('study');
            $found = $this->replay->compare($study, $file);
        } catch (Problem|Refusal $e) {
            $output->writeln($e->getMessage());

            return 2;
        }
        foreach ([...$says, ...$found['differs']] as $line) {
            $output->writeln($line);
        }
        $output->writeln(\sprintf(
            'Study %d: %d %s the same to the last bit, %d otherwise.',
            $id,
            $found['same'],
            1 === $found['same'] ? 'trial is' : 'trials are',
            \count($found['differs']),
        ));

        return [] === $found['differs'] ? 0 : 1;
    }
}
