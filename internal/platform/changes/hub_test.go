package changes

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
)

func event(n int64) Event { return Event{Number: n, ID: uuid.New(), Operation: "putPlayer"} }

func TestAFollowerHearsHisClubAlone(t *testing.T) {
	var h Hub
	ours, theirs := uuid.New(), uuid.New()
	a, leaveA := h.Follow(ours)
	b, leaveB := h.Follow(theirs)
	h.tell(ours, event(1))
	assert.Equal(t, int64(1), (<-a.Events).Number)
	assert.Empty(t, b.Events)
	assert.Equal(t, 2, h.Following())
	leaveA()
	leaveB()
	assert.Zero(t, h.Following())
	h.tell(ours, event(2)) // nobody hears it, and nothing waits
	assert.Empty(t, a.Events)
}

// TestASlowReaderHoldsNobodyUp: what he has no room for is lost, and he is told so.
func TestASlowReaderHoldsNobodyUp(t *testing.T) {
	var h Hub
	club := uuid.New()
	slow, _ := h.Follow(club)
	quick, _ := h.Follow(club)
	for n := range int64(3 * pending) {
		h.tell(club, event(n))
		assert.Equal(t, n, (<-quick.Events).Number)
	}
	assert.Len(t, slow.Events, pending)
	assert.Len(t, slow.Lost, 1)
	assert.Empty(t, quick.Lost)
}

func TestWhoListensIsToldWhenTheDatabaseWasAway(t *testing.T) {
	var h Hub
	f, _ := h.Follow(uuid.New())
	h.lost()
	h.lost()
	assert.Len(t, f.Lost, 1)
}

func TestClosingEndsEveryStream(t *testing.T) {
	var h Hub
	f, leave := h.Follow(uuid.New())
	h.Close()
	_, open := <-f.Events
	assert.False(t, open)
	leave()
	late, _ := h.Follow(uuid.New())
	_, open = <-late.Events
	assert.False(t, open, "nor does a new one begin")
}

func TestANoticeThatIsNoneIsLeftAlone(t *testing.T) {
	var h Hub
	club := uuid.New()
	f, _ := h.Follow(club)
	for _, notice := range []string{"", "x", club.String(), club.String() + " {", "17 {}"} {
		h.hear(notice)
	}
	assert.Empty(t, f.Events)
	h.hear(club.String() + ` {"number": 4, "operation": "putPlayer", "record": "/roster"}`)
	assert.Equal(t, int64(4), (<-f.Events).Number)
}

// TestWhereSomebodyIsIsPassedOn to who follows the club, and to nobody else.
func TestWhereSomebodyIsIsPassedOn(t *testing.T) {
	var h Hub
	club := uuid.New()
	f, _ := h.Follow(club)
	other, _ := h.Follow(uuid.New())
	device := uuid.New()
	h.hear(club.String() + ` {"number": 0, "here": {"name": "R. Kell", "device": "` + device.String() + `", "where": "practice/1", "what": "e1"}}`)
	e := <-f.Events
	assert.Equal(t, Here{Name: "R. Kell", Device: device, Where: "practice/1", What: "e1"}, *e.Here)
	assert.Empty(t, other.Events)
}
