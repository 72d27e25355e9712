<?php

declare(strict_types=1);

namespace App\Decision;

use App\Account\User;
use App\Approval\Approvals;
use App\Http\Problem;
use App\Logbook\Logbook;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Format\RecordLine;
use Dokimos\Core\Format\WorkbookWriter;
use Dokimos\Core\Table\FrameCodec;

/** Writes a list in open formats. Those left untouched by draw are written with it, marked as such, so that nobody loses who they were. */
final readonly class ListFiles
{
    public const FORMATS = ['csv', 'jsonl', 'xlsx'];

    public function __construct(
        private Lists $lists,
        private ListPages $pages,
        private Approvals $approvals,
        private Logbook $logbook,
        private EntityManagerInterface $entities,
    ) {
    }

    /**
     * @param list<TakenColumn> $chosen none = the usual ones
     *
     * @throws Problem
     */
    public function columns(Decision $decision, array $chosen): TakenColumns
    {
        return TakenColumns::of($decision, $chosen, $this->approvals->standing($decision->scoring()->trial()));
    }

    /** What a file is called, which says whether it is a draft. */
    public function name(Decision $decision, string $format): string
    {
        $scoring = $decision->scoring();

        return preg_replace('/[^A-Za-z0-9_.-]+/', '_', $scoring->table()->name()).'_list'
            .($this->approvals->isApproved($scoring->trial()) ? '' : '_draft').'.'.$format;
    }

    /** @return \Generator<int, string> */
    public function lines(Decision $decision, TakeRequest $request): \Generator
    {
        $columns = $this->columns($decision, $request->columns);
        if ('csv' === $request->format) {
            yield CsvWriter::line($columns->names);
        }
        foreach ($this->records($decision, $request->which, $columns) as $cells) {
            yield 'csv' === $request->format ? CsvWriter::line($cells) : RecordLine::of($columns->names, $columns->kinds, $cells);
        }
    }

    /** @return string the bytes of an XLSX workbook */
    public function workbook(Decision $decision, TakeRequest $request): string
    {
        $columns = $this->columns($decision, $request->columns);
        $listed = $this->lists->of($decision->scoring(), $decision->terms());
        $cells = \count(self::taken($listed, $request->which)) * \count($columns->of);
        if ($cells > WorkbookWriter::MOST_CELLS) {
            throw Problem::invalid(
                \sprintf(
                    'The list has %s cells; a workbook is written up to %s. Take CSV.',
                    number_format($cells),
                    number_format(WorkbookWriter::MOST_CELLS),
                ),
                'format',
            );
        }
        $path = (string) tempnam(sys_get_temp_dir(), 'list');
        try {
            WorkbookWriter::write($columns->names, $columns->kinds, $this->records($decision, $request->which, $columns), $path);

            return (string) file_get_contents($path);
        } finally {
            unlink($path);
        }
    }

    /** @return list<int> best first; those left untouched stand among those acted on */
    public static function taken(Listed $listed, string $which): array
    {
        return 'acted' === $which ? $listed->chosen->together($listed->list) : ListPages::picked($listed, $which);
    }

    /** @return \Generator<int, list<?string>> */
    public function records(Decision $decision, string $which, TakenColumns $columns): \Generator
    {
        $listed = $this->lists->of($decision->scoring(), $decision->terms());
        $carried = $columns->carried($decision);
        foreach (array_chunk(self::taken($listed, $which), FrameCodec::ROWS) as $page) {
            foreach ($this->pages->rows($decision, $listed, $page, $carried) as $row) {
                yield $columns->cells($row, $carried);
            }
        }
    }

    public function note(Decision $decision, User $user, string $format): void
    {
        $this->logbook->write(
            $decision->study(),
            $user,
            'decisions',
            \sprintf('Took the list "%s" along as %s.', $decision->name(), $format),
        );
        $this->entities->flush();
    }
}
