package growth

import (
	"math"
	"math/bits"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"nineyard/core/season"
)

// tally is a sum of counts. Counts are whole, so that their sums are exact in any order.
type tally struct{ clean, faulty float64 }

func (t tally) n() float64   { return t.clean + t.faulty }
func (t tally) count() Count { return Count{int(t.clean), int(t.faulty)} }

func (t *tally) add(u tally) {
	t.clean += u.clean
	t.faulty += u.faulty
}

// entry is a row as it is sorted: its key orders by player, technique, age and source.
type entry struct {
	key           uint64
	clean, faulty uint32
	side          Side
}

// cell is one player at one technique; its entries lie together.
type cell struct {
	player, technique int32
	from, to          int
	all               [2]tally // by source, the whole input
	clean, faulty     float64  // weighted
}

// sums are those of one technique over all players.
type sums struct {
	clean, faulty float64  // weighted
	all           [2]tally // by source, the whole input
	carry         [2]tally // by source, the carry-over days
	players       [2]int   // by source: who has reps of it
}

// input is all rows, sorted.
type input struct {
	settings            Settings
	players, techniques []string // sorted
	ages                uint64   // 1 + the greatest age
	entries             []entry
	cells               []cell // by player, then technique
	byTechnique         []sums
	ofPlayer            []int // the first cell of each player, and the end
	chunks              []int // players before which a chunk ends; see inChunks
}

// chunk is the number of cells from which on another chunk begins.
const chunk = 1024

// inChunks calls do for chunks of players, several at a time; what they share they must only
// read. Where a chunk ends depends on the input alone, so that sums taken chunk by chunk are
// the same on every machine.
func (in *input) inChunks(do func(chunk, first, end int)) {
	first := func(i int) int {
		if i == 0 {
			return 0
		}
		return in.chunks[i-1]
	}
	if len(in.chunks) == 1 {
		do(0, 0, in.chunks[0])
		return
	}
	var next atomic.Int64
	var all sync.WaitGroup
	for range min(runtime.GOMAXPROCS(0), len(in.chunks)) {
		all.Go(func() {
			for i := int(next.Add(1)) - 1; i < len(in.chunks); i = int(next.Add(1)) - 1 {
				do(i, first(i), in.chunks[i])
			}
		})
	}
	all.Wait()
}

// gather sorts the rows by player, technique, age and source and sums them up.
func gather(asOf season.Date, s Settings, rows []Row) (*input, error) {
	in := &input{settings: s, entries: make([]entry, len(rows))}
	// Names are looked up in maps, which is most of what gathering a million rows costs: those of
	// techniques meanwhile.
	var player, technique names
	techniques := make([]uint32, len(rows))
	meanwhile := make(chan struct{})
	number := func() {
		for i := range rows {
			techniques[i] = uint32(technique.of(rows[i].Technique))
		}
		close(meanwhile)
	}
	if len(rows) > chunk {
		go number()
	} else {
		number()
	}
	var wrong error
	for i := range rows {
		r := &rows[i]
		age, err := r.check(i, asOf)
		if err != nil {
			wrong = err
			break
		}
		in.ages = max(in.ages, uint64(age)+1)
		in.entries[i] = entry{key: player.of(r.Player) << 32, clean: uint32(r.Clean), faulty: uint32(r.Faulty), side: r.Side}
	}
	<-meanwhile
	if wrong != nil {
		return nil, wrong
	}
	var playerRank, techniqueRank []uint64
	in.players, playerRank = player.sorted()
	in.techniques, techniqueRank = technique.sorted()
	wide := uint64(len(in.techniques))
	for i := range rows {
		e := &in.entries[i]
		pair := playerRank[e.key>>32]*wide + techniqueRank[techniques[i]]
		e.key = (pair*in.ages+uint64(asOf-rows[i].Date))*2 + uint64(rows[i].Source)
	}
	in.entries = radix(in.entries, uint64(len(in.players))*wide*in.ages*2)
	in.sum()
	return in, nil
}

// sum finds the cells and sums them up.
func (in *input) sum() {
	in.byTechnique = make([]sums, len(in.techniques))
	in.ofPlayer = make([]int, len(in.players)+1)
	wide := uint64(len(in.techniques))
	weight := make([]float64, in.ages)
	for age := range weight {
		weight[age] = math.Exp2(-float64(age) / in.settings.HalfLifeDays)
	}
	var list []session
	for from := 0; from < len(in.entries); {
		pair := in.entries[from].key / (2 * in.ages)
		c := cell{player: int32(pair / wide), technique: int32(pair % wide), from: from}
		for end := (pair + 1) * 2 * in.ages; from < len(in.entries) && in.entries[from].key < end; from++ {
		}
		c.to = from
		of := &in.byTechnique[c.technique]
		list = in.sessions(&c, list[:0])
		for i := range list {
			x := &list[i]
			c.all[x.source].add(x.tally)
			w := weight[x.age]
			c.clean += w * x.clean
			c.faulty += w * x.faulty
			if int(x.age) < in.settings.CarryDays {
				of.carry[x.source].add(x.tally)
			}
		}
		of.clean += c.clean
		of.faulty += c.faulty
		for source, t := range c.all {
			of.all[source].add(t)
			if t.n() > 0 {
				of.players[source]++
			}
		}
		in.cells = append(in.cells, c)
		in.ofPlayer[c.player+1] = len(in.cells)
	}
	begun := 0
	for p := range in.players {
		if end := in.ofPlayer[p+1]; end-begun >= chunk || p+1 == len(in.players) {
			in.chunks, begun = append(in.chunks, p+1), end
		}
	}
}

// session is all rows of a cell of one date and source; of one side too where sides are
// compared. part says on which side of the comparison at hand it stands.
type session struct {
	tally
	age    int32
	source Source
	part   uint8
}

// sessions appends the sessions of a cell, youngest first. Rows without reps make none.
func (in *input) sessions(c *cell, list []session) []session {
	for i := c.from; i < c.to; {
		key := in.entries[i].key
		x := session{age: int32(key / 2 % in.ages), source: Source(key % 2)}
		for ; i < c.to && in.entries[i].key == key; i++ {
			x.clean += float64(in.entries[i].clean)
			x.faulty += float64(in.entries[i].faulty)
		}
		if x.n() > 0 {
			list = append(list, x)
		}
	}
	return list
}

// sided appends the sessions of a cell within the carry-over days by side: part 0 is left,
// 1 right. Rows without a side take no part.
func (in *input) sided(c *cell, list []session) []session {
	for i := c.from; i < c.to; {
		key := in.entries[i].key
		x := session{age: int32(key / 2 % in.ages), source: Source(key % 2)}
		if int(x.age) >= in.settings.CarryDays {
			break
		}
		var by [3]tally
		for ; i < c.to && in.entries[i].key == key; i++ {
			e := &in.entries[i]
			by[e.side].add(tally{float64(e.clean), float64(e.faulty)})
		}
		for part, side := range []Side{Left, Right} {
			if x.tally, x.part = by[side], uint8(part); x.n() > 0 {
				list = append(list, x)
			}
		}
	}
	return list
}

// names numbers names in the order in which they come. Rows mostly come in runs of one
// player and technique, so the last name is tried before the map.
type names struct {
	number map[string]uint64
	list   []string
	last   string
	was    uint64
}

func (n *names) of(name string) uint64 {
	if name == n.last && len(n.list) > 0 {
		return n.was
	}
	i, ok := n.number[name]
	if !ok {
		if n.number == nil {
			n.number = map[string]uint64{}
		}
		i = uint64(len(n.list))
		n.number[name] = i
		n.list = append(n.list, name)
	}
	n.last, n.was = name, i
	return i
}

// sorted returns the names in order, and the rank of each number.
func (n *names) sorted() (list []string, rank []uint64) {
	list = slices.Sorted(slices.Values(n.list))
	rank = make([]uint64, len(list))
	for i, name := range list {
		rank[n.number[name]] = uint64(i)
	}
	return list, rank
}

// radix sorts entries by key, all of which lie below end: eleven bits at a time from the
// lowest, with as many passes as end needs. Sorting by comparison takes several times as
// long as all the rest of a report over a million rows.
func radix(list []entry, end uint64) []entry {
	const digit = 11
	other := make([]entry, len(list))
	for shift := 0; shift < bits.Len64(end); shift += digit {
		var at [1 << digit]int
		for i := range list {
			at[list[i].key>>shift&(1<<digit-1)]++
		}
		sum := 0
		for i, n := range at {
			at[i] = sum
			sum += n
		}
		for i := range list {
			d := list[i].key >> shift & (1<<digit - 1)
			other[at[d]] = list[i]
			at[d]++
		}
		list, other = other, list
	}
	return list
}
