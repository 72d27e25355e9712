<?php

declare(strict_types=1);

namespace App\Approval;

use App\Http\Problem;
use App\Study\Owners;
use App\Study\Study;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Refusal;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Lets a trial be used, as the owner of its study. */
#[AsCommand('dokimos:approve', 'Approve a trial for use')]
final class ApproveCommand extends Command
{
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Approvals $approvals,
        private readonly Owners $owners,
    ) {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('study', InputArgument::REQUIRED, 'Number of the study')
            ->addArgument('trial', InputArgument::REQUIRED, 'Number of the trial within the study')
            ->addOption('sentence', null, InputOption::VALUE_REQUIRED, 'Why it may be used')
            ->addOption('by', null, InputOption::VALUE_REQUIRED, 'Sign-in name of the owner who approves; the first owner when left out')
            ->addOption('limits', null, InputOption::VALUE_REQUIRED, 'What it is not to be used for')
            ->addOption('again', null, InputOption::VALUE_REQUIRED, 'The day to look again, such as 2027-04-30')
            ->addOption(
                'rule',
                null,
                InputOption::VALUE_REQUIRED,
                'For missing and unknown columns: '.implode(', or ', Approval::RULES),
                Approval::REFUSE,
            )
            ->addOption('cutoff', null, InputOption::VALUE_REQUIRED, 'Called from this chance on', '0.5');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $text = static fn (string $name): string => \is_string($input->getOption($name)) ? $input->getOption($name) : '';
        $study = $this->entities->find(Study::class, self::number($input, 'study'));
        $trial = null === $study ? null : $this->entities->getRepository(Trial::class)->findOneBy([
            'question' => $study->id(),
            'number' => self::number($input, 'trial'),
        ]);
        if (null === $study || null === $trial) {
            $output->writeln('There is no such trial.');

            return 1;
        }
        if ('' === $text('sentence') || '' === $text('limits') || 1 !== preg_match(
            '/^\d{4}-\d\d-\d\d$/',
            $text('again'),
        ) || !\in_array($text('rule'), Approval::RULES, true)) {
            $output->writeln(
                'An approval says why (--sentence), what it is not for (--limits), when to look again (--again=2027-04-30),'
                    .' and what is done about missing columns (--rule).',
            );

            return 1;
        }
        try {
            $approval = $this->approvals->approve($trial, $this->owners->named(
                $study,
                '' === $text('by') ? null : $text('by'),
            ), new ApprovalRequest(
                $text('sentence'),
                $text('limits'),
                $text('again'),
                $text('rule'),
                (float) $text('cutoff'),
            ));
        } catch (Problem|Refusal $e) {
            $output->writeln($e->getMessage());

            return 1;
        }
        $output->writeln(\sprintf('Trial %d of study %d is approved as number %d.', $trial->number(), $study->id(), $approval->number()));

        return 0;
    }

    private static function number(InputInterface $input, string $name): int
    {
        return is_numeric($input->getArgument($name)) ? (int) $input->getArgument($name) : 0;
    }
}
